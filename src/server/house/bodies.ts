import { paced } from './limitGuesses';

/**
 * What may arrive at the same time, in bytes. Answers, marks and plans are far below `small`, and are never counted; what is
 * larger is a file, or something that wants to fill the memory.
 */
export const bodyLimits = {
  small: 262_144,
  largest: 64_000_000,
  /** What a body counts as that does not tell its length: the most that a page sends. */
  untold: 12_000_000,
  atOnce: 192_000_000,
  byOne: 2,
  /** So many one after the other from one person without a pause, and then one in so many milliseconds. */
  inARow: 6,
  every: 300,
  /** From all together who are not signed in: signing in through a proxy that tells no lengths. */
  byNobody: 4,
};

/** Why a body is not received. */
export type Turned = 'too-large' | 'signed-out' | 'busy';

const nextFrom = paced(bodyLimits.inARow, bodyLimits.every);

let arriving = 0;
/** How many each sends just now; those who are not signed in are one. */
const senders = new Map<string | null, number>();

/**
 * Whether a body is received, before a byte of it is read: large ones only from somebody who is signed in, few from one
 * person, and no more at once than memory is there for. A body that does not tell its length may be a small one, which some
 * proxies pass on so: a few of them are received from anybody, and cut off by whoever reads them.
 *
 * @param who asked only where it matters
 * @returns what frees its place once the request is over, or why it is turned away
 */
export async function receiveBody(
  headers: { length: string | undefined; isChunked: boolean },
  who: () => Promise<string | null>,
): Promise<Turned | (() => void)> {
  const told = headers.isChunked ? bodyLimits.untold : Number(headers.length ?? 0);
  if (!(told <= bodyLimits.largest)) return 'too-large';
  if (told <= bodyLimits.small) return () => {};
  const sender = await who();
  if (sender === null && !headers.isChunked) return 'signed-out';
  const own = senders.get(sender) ?? 0;
  if (own >= (sender === null ? bodyLimits.byNobody : bodyLimits.byOne) || arriving + told > bodyLimits.atOnce)
    return 'busy';
  arriving += told;
  senders.set(sender, own + 1);
  // A page that sends many files feels little of it; whoever sends one after the other without end leaves time for others.
  for (let wait = nextFrom(sender ?? '', Date.now()); wait > 0; wait = nextFrom(sender ?? '', Date.now()))
    await new Promise((resolve) => setTimeout(resolve, wait));
  let isOver = false;
  return () => {
    if (isOver) return;
    isOver = true;
    arriving -= told;
    const left = (senders.get(sender) ?? 1) - 1;
    if (left > 0) senders.set(sender, left);
    else senders.delete(sender);
  };
}

/**
 * Reads a body up to so many bytes; the rest of a longer one is never taken in.
 *
 * @returns null where it is longer
 */
export async function readBody(body: ReadableStream<Uint8Array> | null, most: number): Promise<Uint8Array | null> {
  const parts: Uint8Array[] = [];
  let length = 0;
  const reader = body?.getReader();
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    length += part.value.length;
    if (length > most) {
      await reader?.cancel();
      return null;
    }
    parts.push(part.value);
  }
  return Buffer.concat(parts);
}

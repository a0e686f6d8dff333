/**
 * What may arrive at the same time, in bytes. Answers, marks and plans are far below `small`, and are never counted; what is
 * larger is a file, or something that wants to fill the memory.
 */
export const bodyLimits = { small: 262_144, largest: 64_000_000, atOnce: 192_000_000, byOne: 2 };

/** Why a body is not received. */
export type Turned = 'too-large' | 'signed-out' | 'busy';

let arriving = 0;
const senders = new Map<string, number>();

/**
 * Whether a body is received, before a byte of it is read: large ones only from somebody who is signed in, few from one
 * person, and no more at once than memory is there for. A body that does not tell its length counts as the largest.
 *
 * @param who asked only where it matters
 * @returns what frees its place once the request is over, or why it is turned away
 */
export async function receiveBody(
  headers: { length: string | undefined; isChunked: boolean },
  who: () => Promise<string | null>,
): Promise<Turned | (() => void)> {
  const told = headers.isChunked ? bodyLimits.largest : Number(headers.length ?? 0);
  if (!(told <= bodyLimits.largest)) return 'too-large';
  if (told <= bodyLimits.small) return () => {};
  const sender = await who();
  if (sender === null) return 'signed-out';
  const own = senders.get(sender) ?? 0;
  if (own >= bodyLimits.byOne || arriving + told > bodyLimits.atOnce) return 'busy';
  arriving += told;
  senders.set(sender, own + 1);
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

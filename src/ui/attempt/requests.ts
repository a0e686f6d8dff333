import type { SendOutcome, SendReply } from './answerKeeper';

/** What carries a request: the browser's network, unless a test names another. */
export type Net = (address: string, request: RequestInit) => Promise<Pick<Response, 'status' | 'json'>>;

const browserNet: Net = (address, request) => fetch(address, { ...request, signal: AbortSignal.timeout(15_000) });

/** Asks one of the attempt's addresses; null when the server did not answer in time. */
export async function ask<T>(
  address: string,
  body: unknown,
  net: Net = browserNet,
): Promise<{ status: number; body: T } | null> {
  try {
    const response = await net(address, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
    return { status: response.status, body: (await response.json().catch(() => ({}))) as T };
  } catch {
    return null;
  }
}

/** What a status of the save address means for the answer that was sent. */
export function outcomeOf(status: number | undefined): SendOutcome {
  if (status === undefined || status >= 500 || status === 429) return 'lost';
  if (status < 300) return 'saved';
  // Nobody is signed in, or somebody to whom this paper does not exist.
  if (status === 401 || status === 404) return 'signed-out';
  if (status === 403) return 'elsewhere';
  if (status === 409) return 'superseded';
  return status === 410 ? 'late' : 'refused';
}

type Refused = { problems?: { message: string }[] };

/** What the server says against something, in its words; null where it did not answer, or failed. */
export const saidAgainst = (answer: { status: number; body: Refused } | null): string | null =>
  (answer && answer.status < 500 && answer.status !== 429 && answer.body.problems?.[0]?.message) || null;

/** Sends an answer. */
export async function sendAnswer(attemptId: string, answer: object, net?: Net): Promise<SendReply> {
  const reply = await ask<Refused>(`/api/attempts/${attemptId}/save`, answer, net);
  return { outcome: outcomeOf(reply?.status), said: saidAgainst(reply) ?? undefined };
}

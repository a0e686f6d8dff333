import type { SendOutcome } from './answerKeeper';

/** Asks one of the attempt's addresses; null when the server did not answer in time. */
export async function ask<T>(address: string, body: unknown): Promise<{ status: number; body: T } | null> {
  try {
    const response = await fetch(address, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(15_000),
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
  if (status === 401) return 'signed-out';
  if (status === 403) return 'elsewhere';
  if (status === 409) return 'superseded';
  return status === 410 ? 'ended' : 'refused';
}

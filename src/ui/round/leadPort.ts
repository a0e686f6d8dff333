import type { Result } from '@/core/base/result';

/** What is done with a question of a led round. */
export type LeadAct = { kind: 'open' | 'open-again' | 'close' | 'show'; question: number };

/** Asks an address that outlives a new build of the server. Without an answer it fails, as a command of a page does. */
async function ask(address: string, body: unknown): Promise<Result<unknown>> {
  const response = await fetch(address, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(15_000),
  });
  const answer = (await response.json()) as { problems?: Extract<Result<unknown>, { ok: false }>['problems'] };
  if (response.ok) return { ok: true, value: answer };
  return {
    ok: false,
    problems: answer.problems ?? [{ code: 'busy', message: 'The server could not do this. Try again.' }],
  };
}

/** Leads a round and stops it. @param here the address of the round */
export const leadPort = (here: string) => ({
  leadRound: (act: LeadAct) => ask(`${here}/lead`, act),
  stopRound: () => ask(`${here}/stop`, null),
});

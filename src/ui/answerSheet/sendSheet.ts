const tries = 3;
const pause = 1_500;

/** What became of a page that was sent: whose it is where it was made out for somebody, or why it was refused. */
export type Sent = { madeOutFor: string | null } | { why: string };

/** Sends one page that was read; a network that fails is tried again. */
export async function sendSheet(to: string, parcel: Uint8Array): Promise<Sent> {
  for (let i = 1; ; i++) {
    const answer = await fetch(to, { method: 'POST', body: parcel as BodyInit }).catch(() => null);
    const body = (await answer?.json().catch(() => null)) as {
      problems?: { message: string }[];
      madeOutFor?: string | null;
    } | null;
    if (answer?.ok) return { madeOutFor: body?.madeOutFor ?? null };
    if (answer && answer.status !== 429 && answer.status < 500)
      return { why: body?.problems?.[0]?.message ?? 'The page was refused.' };
    if (i === tries)
      return { why: 'The server could not be reached. What was read so far is kept: read the rest again to go on.' };
    await new Promise((resolve) => setTimeout(resolve, pause));
  }
}

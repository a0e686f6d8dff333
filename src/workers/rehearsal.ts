import { linesOf } from '../core/exam/design';
import { type RehearsalMaterial, type RehearsalMessage, type RehearsalWish, rehearse } from '../core/exam/rehearsal';

const say = (message: RehearsalMessage) => self.postMessage(message);

/** How often progress is told, in milliseconds: more would only keep the page busy. */
const pause = 120;

/**
 * Fetches what the exam can draw and rehearses it, so that neither the reading nor the drawing keeps the page from
 * answering. The page ends a rehearsal by ending the worker.
 */
async function run({ material, students, attempts, within }: RehearsalWish): Promise<void> {
  const answer = await fetch(material);
  if (!answer.ok) return say({ kind: 'failed', message: 'The exam could not be read. Load the page again.' });
  const { design, snapshot, names } = (await answer.json()) as RehearsalMaterial;
  const begun = performance.now();
  let told = begun;
  const rehearsal = rehearse(
    {
      design: within ? { ...design, equalHardness: { within } } : design,
      snapshot,
      students,
      attempts,
      seed: 'rehearsal',
    },
    (done, all) => {
      if (performance.now() - told < pause) return;
      told = performance.now();
      say({ kind: 'progress', done, all });
    },
  );
  if (!rehearsal) return say({ kind: 'failed', message: 'No paper can be drawn yet: the plan check says why.' });
  const fixed = new Set(linesOf(design).flatMap(({ line }) => (line.kind === 'fixed' ? [line.questionId] : [])));
  const uses = snapshot.entries
    .map(({ questionId }, i) => ({
      questionId,
      name: names[questionId] ?? '',
      plain: rehearsal.plain.use[i] ?? 0,
      equal: rehearsal.equal.use[i] ?? 0,
    }))
    .filter((use) => !fixed.has(use.questionId))
    .sort((a, b) => b.plain - a.plain);
  say({ kind: 'done', rehearsal, uses, seconds: (performance.now() - begun) / 1_000 });
}

self.onmessage = (event: MessageEvent<RehearsalWish>) =>
  void run(event.data).catch(() => say({ kind: 'failed', message: 'The server could not be reached. Try again.' }));

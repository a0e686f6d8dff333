import type { Instant } from '../base/time';

/** What a student may be shown of their own attempt. */
export const facts = [
  'score',
  'questions',
  'own-answers',
  'right-or-wrong',
  'right-answers',
  'feedback',
  'comments',
] as const;
export type Fact = (typeof facts)[number];

/** When a window begins. Further moments join this union; each must be decided in {@link visibleTo}. */
export type ReleaseMoment = { kind: 'on-publishing' };
export type ReleaseWindow = { begins: ReleaseMoment };

/** For each fact its windows. A fact without a window is never shown. */
export type ReleasePlan = Partial<Record<Fact, ReleaseWindow[]>>;

/** The plan of a sitting unless another is set: the score, once it is published. */
export const scoreOnPublishing: ReleasePlan = { score: [{ begins: { kind: 'on-publishing' } }] };

export type PublicationFacts = { publishedAt: Instant; withdrawnAt: Instant | null };

/**
 * Which facts a student may see now. The one function that decides it: every student-facing query goes through a
 * use-case that applies it before anything is sent.
 *
 * @param publications what has been put in front of this student for this sitting, withdrawn ones included
 */
export function visibleTo(plan: ReleasePlan, publications: readonly PublicationFacts[], now: Instant): Set<Fact> {
  const published = publications.some(
    (one) => one.publishedAt <= now && (one.withdrawnAt === null || now < one.withdrawnAt),
  );
  const open = (window: ReleaseWindow): boolean => {
    switch (window.begins.kind) {
      case 'on-publishing':
        return published;
    }
  };
  const visible = new Set(facts.filter((fact) => plan[fact]?.some(open)));
  if (!visible.has('questions'))
    for (const fact of facts) if (fact !== 'score' && fact !== 'questions') visible.delete(fact);
  return visible;
}

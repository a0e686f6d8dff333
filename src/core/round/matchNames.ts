import { mayBeSameName } from '../people/names';

/** Somebody on the roster. */
export type Listed = { userId: string; name: string };

/** Somebody who came in by a name they typed, with whoever on the roster they most likely are. */
export type Proposal = {
  guestId: string;
  typed: string;
  /** Those it may be, the likeliest first. */
  candidates: Listed[];
  /** The one it is taken to be: where exactly one person fits, and nobody else typed a name that fits them as well. */
  proposed: string | null;
};

const words = (name: string): string[] =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .match(/[\p{L}\p{N}]+/gu) ?? [];

/**
 * How well a typed name fits one on the roster: 3 the same words, 2 all words of the shorter one stand in the longer one,
 * 1 each typed word begins one of the other name or differs from it by one letter, 0 not.
 *
 * @example nameFit('Mia L', 'Mia Lind') // 1
 */
export function nameFit(typed: string, name: string): number {
  const [a, b] = [words(typed), words(name)];
  if (a.length === 0 || b.length === 0) return 0;
  if ([...a].sort().join(' ') === [...b].sort().join(' ')) return 3;
  if (mayBeSameName(typed, name)) return 2;
  return a.every((word) => b.some((other) => other.startsWith(word) || nearly(word, other))) ? 1 : 0;
}

/** Whether two words of at least four letters differ by one letter that is other, missing or too many, or by two that changed places. */
function nearly(a: string, b: string): boolean {
  if (Math.min(a.length, b.length) < 4 || Math.abs(a.length - b.length) > 1) return false;
  let i = 0;
  while (i < a.length && a[i] === b[i]) i += 1;
  const [restA, restB] = [a.slice(i), b.slice(i)];
  return (
    restA.slice(1) === restB.slice(1) ||
    restA.slice(1) === restB ||
    restA === restB.slice(1) ||
    (restA.length > 1 && restA[0] === restB[1] && restA[1] === restB[0] && restA.slice(2) === restB.slice(2))
  );
}

/**
 * Proposes who those are that typed a name. Whoever is in the round already in their own name is nobody's candidate.
 *
 * @param taken the ids of people on the roster who are in the round already
 */
export function proposeMatches(
  guests: readonly { guestId: string; typed: string }[],
  roster: readonly Listed[],
  taken: ReadonlySet<string> = new Set(),
): Proposal[] {
  const free = roster.filter((one) => !taken.has(one.userId));
  const found = guests.map(({ guestId, typed }) => {
    const fits = free
      .map((one) => ({ one, fit: nameFit(typed, one.name) }))
      .filter(({ fit }) => fit > 0)
      .sort((a, b) => b.fit - a.fit);
    const best = fits.filter(({ fit }) => fit === fits[0]?.fit);
    return { guestId, typed, candidates: fits.map(({ one }) => one), only: best.length === 1 ? best[0] : undefined };
  });
  // Two who both fit one person: the better fit is meant, and of equals nobody knows which.
  const meantBy = new Map<string, number[]>();
  for (const { only } of found)
    if (only) meantBy.set(only.one.userId, [...(meantBy.get(only.one.userId) ?? []), only.fit]);
  return found.map(({ guestId, typed, candidates, only }): Proposal => {
    const fits = (only && meantBy.get(only.one.userId)) ?? [];
    const best = Math.max(...fits, 0);
    const isMeant = only?.fit === best && fits.filter((fit) => fit === best).length === 1;
    return { guestId, typed, candidates, proposed: only && isMeant ? only.one.userId : null };
  });
}

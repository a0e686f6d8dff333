import { quickRandom, shuffled } from '../base/random';
import { richText } from '../base/rich';
import { refersToOthers } from '../question/choiceReferences';
import type { QuestionContent } from '../question/content';

type Held = { id: string; content: QuestionContent };

/** How often the right choice of single-choice questions stands in each place, for questions of each length. */
export type RightPlaces = {
  /** Single-choice questions looked at. */
  questions: number;
  /** Share of right choices in each place, from the first, in [0, 1]; beside it what an even spread would give. */
  places: { share: number; even: number }[];
  /** Pearson's chi-squared over all lengths against an even spread, with its degrees of freedom. */
  chiSquared: number;
  freedom: number;
};

/** Where the right choices stand, as written. Pinned ones count too: that is where a student meets them. */
export function rightPlaces(held: readonly QuestionContent[]): RightPlaces {
  const byLength = new Map<number, number[]>();
  let questions = 0;
  for (const content of held) {
    if (content.type !== 'single-choice') continue;
    const place = content.choices.findIndex((choice) => choice.right);
    const counts = byLength.get(content.choices.length) ?? content.choices.map(() => 0);
    if (place >= 0) counts[place] = (counts[place] as number) + 1;
    byLength.set(content.choices.length, counts);
    questions++;
  }
  const most = Math.max(0, ...byLength.keys());
  const places = Array.from({ length: most }, (_, place) => {
    let here = 0;
    let even = 0;
    for (const [length, counts] of byLength) {
      const all = counts.reduce((sum, n) => sum + n, 0);
      here += counts[place] ?? 0;
      if (place < length) even += all / length;
    }
    return { share: here / questions, even: even / questions };
  });
  let chiSquared = 0;
  let freedom = 0;
  for (const [length, counts] of byLength) {
    const expected = counts.reduce((sum, n) => sum + n, 0) / length;
    for (const n of counts) chiSquared += (n - expected) ** 2 / expected;
    freedom += length - 1;
  }
  return { questions, places, chiSquared, freedom };
}

/**
 * Whether the right choices crowd together more than chance explains: chi-squared above its 1 % point, by the normal
 * approximation of Wilson & Hilferty (PNAS 17, 1931): ((χ²/f)^⅓ − (1 − 2/9f)) / √(2/9f) > 2.326.
 */
export function crowded({ chiSquared, freedom }: Pick<RightPlaces, 'chiSquared' | 'freedom'>): boolean {
  if (freedom === 0) return false;
  const spread = 2 / (9 * freedom);
  return (Math.cbrt(chiSquared / freedom) - (1 - spread)) / Math.sqrt(spread) > 2.326;
}

/**
 * Moves right choices so that each place holds as many of them as it can, within one, for questions of each length.
 * Wrong choices keep their order among themselves, and pinned choices stay. Questions are left as they are whose right
 * choice is pinned; that are not shuffled, since their author may have meant the order; and in which a choice refers to
 * others, which would come to refer to something else.
 *
 * @returns the changed contents by question id; the same order of questions gives the same result
 */
export function spreadRightAnswers(held: readonly Held[]): Map<string, QuestionContent> {
  const changed = new Map<string, QuestionContent>();
  const byLength = new Map<number, Held[]>();
  for (const one of held) {
    const { content } = one;
    if (content.type !== 'single-choice' || !content.shuffle) continue;
    if (content.choices.some((one) => (one.right && one.pinned) || refersToOthers(richText(one.content)))) continue;
    byLength.set(content.choices.length, [...(byLength.get(content.choices.length) ?? []), one]);
  }
  for (const [length, group] of byLength) {
    const counts = Array.from({ length }, () => 0);
    for (const { id, content } of shuffled(group, quickRandom(`spread/${length}/${group.length}`))) {
      if (content.type !== 'single-choice') continue;
      const now = content.choices.findIndex((choice) => choice.right);
      const open = content.choices.flatMap((choice, place) => (choice.pinned ? [] : [place]));
      const least = Math.min(...open.map((place) => counts[place] as number));
      // A place that suits is kept, so that as few questions as possible change.
      const to = counts[now] === least ? now : (open.find((place) => counts[place] === least) as number);
      counts[to] = (counts[to] as number) + 1;
      if (to === now) continue;
      const free = content.choices.filter((choice) => !choice.pinned && !choice.right);
      const right = content.choices[now];
      const choices = content.choices.map((choice, place) => {
        if (choice.pinned) return choice;
        return (place === to ? right : free.shift()) ?? choice;
      });
      changed.set(id, { ...content, choices });
    }
  }
  return changed;
}

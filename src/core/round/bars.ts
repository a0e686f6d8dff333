import type { Rich } from '../base/rich';
import { isKeyed } from '../exam/items/item';
import { type AnswerOutcome, outcomeOf } from '../marking/outcome';
import { choiceLabel } from '../question/choiceLabel';
import { definitionOf, type QuestionContent } from '../question/definitions';
import { idOf, type Presentation } from '../question/presentation';
import { responseText, rightResponse, scoreResponse } from '../question/score';
import { readResponse } from '../question/student';
import { withValues } from '../question/withValues';

/** One answer to a question with how many gave it. */
export type Bar = {
  /** The letter of a choice; empty where there is none. */
  label: string;
  /** The words of a choice; null where the answer is a text of its own. */
  rich: Rich | null;
  text: string;
  count: number;
  /** How it does by the key; null while nobody may know, and where no key judges it. */
  outcome: AnswerOutcome | null;
};

/** How a class answered one question. */
export type QuestionBars = {
  /** How many were asked, and how many of them answered. */
  asked: number;
  answered: number;
  /** A bar for each choice in the order in which it is written; else for each different answer, the most frequent first. */
  bars: Bar[];
  /** How many further answers have no bar of their own. */
  others: number;
};

/** What somebody entered for a question, as it stood on their paper; null where nothing was entered. */
export type Given = { presentation: Presentation; value: unknown };

/** So many different answers have a bar of their own where they are not choices. */
export const mostBars = 8;

/** The credit of an answer in [0, 1]; null where nothing was entered, no key is known, or a person judges it. */
export function creditGiven(content: QuestionContent, { presentation, value }: Given): number | null {
  if (!readResponse(content.type, value) || !isKeyed(content)) return null;
  const scored = scoreResponse(content, presentation, value);
  return scored.kind === 'by-hand' ? null : scored.credit;
}

/** How an answer does by the key; null as with {@link creditGiven}. */
export function outcomeGiven(content: QuestionContent, given: Given): AnswerOutcome | null {
  const credit = creditGiven(content, given);
  return credit === null ? null : outcomeOf(credit, 1);
}

/**
 * How a class answered a question, from their responses in any order. Who answered what leaves no trace in what comes out.
 *
 * @param given one for each who was asked
 * @param onWall the values of variables and the labels with which it is shown
 */
export function questionBars(content: QuestionContent, onWall: Presentation, given: readonly Given[]): QuestionBars {
  const answered = given.filter(({ value }) => readResponse(content.type, value));
  const base = { asked: given.length, answered: answered.length };
  if (!('choices' in content)) return { ...base, ...barsOfTexts(content, answered) };
  const counts = new Map<string, number>();
  for (const one of answered) for (const id of pickedIds(content, one)) counts.set(id, (counts.get(id) ?? 0) + 1);
  const hasKey = isKeyed(content);
  const bars = withValues(content, onWall).choices.map(
    (choice, place): Bar => ({
      label: choiceLabel(onWall.labels ?? content.labels, place),
      rich: choice.content,
      text: '',
      count: counts.get(choice.id) ?? 0,
      outcome: hasKey ? (choice.right ? 'right' : 'wrong') : null,
    }),
  );
  return { ...base, bars, others: 0 };
}

type WithChoices = Extract<QuestionContent, { choices: unknown }>;

/** The choices somebody picked, by their ids. */
function pickedIds(content: WithChoices, { presentation, value }: Given): string[] {
  const response = readResponse(content.type, value);
  const keys = response ? definitionOf(content.type).boxes(response) : [];
  return keys.flatMap((key) => idOf(presentation.choices, key) ?? []);
}

function barsOfTexts(content: QuestionContent, given: readonly Given[]): Pick<QuestionBars, 'bars' | 'others'> {
  const byText = new Map<string, { text: string; count: number; one: Given }>();
  for (const one of given) {
    const text = responseText(content, one.presentation, one.value).trim();
    const known = byText.get(text.toLowerCase());
    if (known) known.count += 1;
    else byText.set(text.toLowerCase(), { text, count: 1, one });
  }
  const all = [...byText.values()].sort((a, b) => b.count - a.count || (a.text < b.text ? -1 : 1));
  return {
    bars: all.slice(0, mostBars).map(({ text, count, one }) => ({
      label: '',
      rich: null,
      text,
      count,
      outcome: outcomeGiven(content, one),
    })),
    others: all.slice(mostBars).reduce((sum, one) => sum + one.count, 0),
  };
}

/** The same without anything of the key. */
export const withoutKey = (bars: QuestionBars): QuestionBars => ({
  ...bars,
  bars: bars.bars.map((bar) => ({ ...bar, outcome: null })),
});

/**
 * The same fit for the whole class to see: what only one person wrote in words of their own has no bar, because everybody
 * would know or ask whose it was.
 */
export function fitForWall(bars: QuestionBars): QuestionBars {
  const shown = bars.bars.filter((bar) => bar.rich !== null || bar.count > 1);
  const left = bars.bars.filter((bar) => !shown.includes(bar)).reduce((sum, bar) => sum + bar.count, 0);
  return { ...bars, bars: shown, others: bars.others + left };
}

/** How many went from one answer to another between two votes; in numbers only. */
export type Moved = { from: string; to: string; count: number };

/** How a class changed between two votes. */
export type Movement = { stayed: number; moved: Moved[] };

/**
 * Who changed from what to what between the two votes on a question, in numbers: only those who answered both times, the
 * largest first. An answer is called by its letters, else by its words.
 *
 * @param pairs for each who was asked, the first and the second response
 */
export function movedBetween(
  content: QuestionContent,
  pairs: readonly { presentation: Presentation; first: unknown; second: unknown }[],
): Movement {
  let stayed = 0;
  const counts = new Map<string, Moved>();
  for (const { presentation, first, second } of pairs) {
    const from = answerSaid(content, { presentation, value: first });
    const to = answerSaid(content, { presentation, value: second });
    if (!from || !to) continue;
    if (from === to) {
      stayed += 1;
      continue;
    }
    const known = counts.get(JSON.stringify([from, to]));
    if (known) known.count += 1;
    else counts.set(JSON.stringify([from, to]), { from, to, count: 1 });
  }
  const moved = [...counts.values()].sort((a, b) => b.count - a.count || (a.from + a.to < b.from + b.to ? -1 : 1));
  return { stayed, moved };
}

/** An answer in short: the letters of what was picked, as they are written, else its words; empty where nothing was entered. */
export function answerSaid(content: QuestionContent, given: Given): string {
  if ('choices' in content) {
    const picked = new Set(pickedIds(content, given));
    const letters = content.choices.flatMap(({ id }, place) =>
      picked.has(id) ? [choiceLabel(given.presentation.labels ?? content.labels, place)] : [],
    );
    if (letters.length && letters.every((letter) => letter !== '')) return letters.join(', ');
  }
  return responseText(content, given.presentation, given.value).trim();
}

/** The right answer in words, the letters of choices before them; empty where no key is known or a person judges it. */
export function rightSaid(content: QuestionContent, presentation: Presentation): string {
  if (definitionOf(content.type).waitsForMark(content)) return '';
  if (!isKeyed(content)) return '';
  const value = rightResponse(content, presentation);
  const words = responseText(content, presentation, value).trim();
  const short = answerSaid(content, { presentation, value });
  return short && short !== words ? `${short}: ${words}` : words;
}

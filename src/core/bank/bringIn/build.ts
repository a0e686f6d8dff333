import { emptyRich, type Rich, richFromText } from '../../base/rich';
import { counted } from '../../base/words';
import { type QuestionContent, questionContent } from '../../question/content';
import { usualMatching } from '../../question/text/acceptedText';
import { blankGap, type Gap } from '../../question/types/gap-fill/content';
import { isAlike, placesNamed, type Quantity, readQuantity } from './answers';
import { longestLooked } from './line';

/** The parts of a question as they were found in a document: words, and which of them are right. */
export type Parts = {
  stem: string;
  choices: { text: string; right: boolean; letter?: number; feedback?: string }[];
  /** What stands behind "Answer:"; null where nothing does. */
  answer: string | null;
  /** What a list of keys, or a letter before the number, says of it besides. */
  otherKeys?: string[];
  solution?: string;
  hint?: string;
};

/** A question that was made, with what its person has to be asked; or why none can be made. */
export type Built = { content: QuestionContent; asks: string[] } | { reasons: string[] };

const blank = /_{3,}|…{2,}|\.{5,}|\[\s*(?:blank|gap)\s*\]/i;
const blanks = new RegExp(blank.source, 'gi');
const yes = /^(t|true|right|yes|correct)\.?$/i;
const no = /^(f|false|wrong|no|incorrect|not true)\.?$/i;
const asksTrueOrFalse = /\(?\s*\bt(?:rue)?\s*(?:\/|or)\s*f(?:alse)?\b\s*\)?\s*[:.?]?/i;
const verdict = /(?:\s*[([]\s*(true|false|t|f)\s*[)\]]\s*\.?|(?<=[.!])\s+(True|False|TRUE|FALSE|[TF]))$/i;

/** A question made of its parts: the type follows from what there is. Gives reasons where nothing can be made. */
export function buildQuestion(parts: Parts): Built {
  const asks: string[] = [];
  const content = contentOf(parts, asks);
  if (typeof content === 'string') return { reasons: [content] };
  const parsed = questionContent.safeParse(content);
  if (parsed.success) return { content: parsed.data, asks };
  return { reasons: [...new Set(parsed.error.issues.map((issue) => issue.message))] };
}

const optional = (name: 'solution' | 'hint', text: string | undefined) => (text ? { [name]: richFromText(text) } : {});

type Feedback = QuestionContent['feedback'];

function contentOf(parts: Parts, asks: string[]): QuestionContent | string {
  const feedback = { ...optional('solution', parts.solution), ...optional('hint', parts.hint) };
  if (parts.choices.length > 0) return choiceQuestion(parts, feedback, asks);
  const keys = [parts.answer, ...(parts.otherKeys ?? [])].filter((one) => one !== null);
  if (new Set(keys.map((one) => one.trim().toLowerCase())).size > 1)
    asks.push(`Two keys are named: ${keys.map((one) => `“${one}”`).join(' and ')}. The first was taken.`);
  const answer = keys[0] ?? null;
  return trueFalse(parts.stem, answer, feedback) ?? openQuestion(parts.stem, answer, feedback, asks);
}

/** Which choices are right, by marks, by the answer named and by lists of keys; where they disagree it is asked. */
function rightPlaces(parts: Parts, asks: string[]): number[] | string {
  const choices = parts.choices.map((one, i) => ({ text: one.text, letter: one.letter ?? i }));
  const marked = parts.choices.flatMap((one, i) => (one.right ? [i] : []));
  const sources: { from: string; places: number[] }[] = [];
  for (const key of [parts.answer, ...(parts.otherKeys ?? [])]) {
    if (key === null || key === '') continue;
    const named = placesNamed(key, choices);
    if (typeof named === 'string') return named;
    asks.push(...named.asks);
    sources.push({ from: `the key “${key.trim()}”`, places: named.value });
  }
  if (marked.length) sources.push({ from: 'the marks', places: marked });
  const [taken, ...others] = sources;
  if (!taken) return [];
  const key = (places: number[]) => [...places].sort((a, b) => a - b).join();
  const against = others.find((one) => key(one.places) !== key(taken.places));
  if (against) asks.push(`${capital(taken.from)} and ${against.from} differ: ${taken.from} was taken.`);
  return taken.places;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function choiceQuestion(parts: Parts, feedback: Feedback, asks: string[]): QuestionContent | string {
  const places = rightPlaces(parts, asks);
  if (typeof places === 'string') return places;
  if (places.length === 0) return 'No choice is marked as right.';
  const { choices } = parts;
  const stem = richFromText(parts.stem.trim());
  if (choices.length === 2 && places.length === 1) {
    const [first, second] = choices.map((one) => one.text.trim()) as [string, string];
    const statement = withoutHint(parts.stem);
    if (yes.test(first) && no.test(second))
      return { type: 'true-false', stem: statement, answer: places[0] === 0, feedback };
    if (no.test(first) && yes.test(second))
      return { type: 'true-false', stem: statement, answer: places[0] === 1, feedback };
  }
  if (choices.some((one, i) => choices.slice(0, i).some((other) => isAlike(one.text, other.text))))
    asks.push('Two choices have the same words.');
  if (choices.some((one) => one.text.length < 20 && /^[*(\s]*[a-t]\s*[.)\]:–-]+$/i.test(one.text.trim())))
    asks.push('A choice has a letter and no words.');
  if (places.length === choices.length && choices.length > 1) asks.push('Every choice is marked as right.');
  const list = choices.map((choice, i) => ({
    id: `c${i}`,
    content: richFromText(choice.text),
    right: places.includes(i),
    pinned: false,
    ...(choice.feedback ? { feedback: richFromText(choice.feedback) } : {}),
  }));
  if (places.length === 1) return { type: 'single-choice', stem, choices: list, shuffle: true, feedback };
  return { type: 'multiple-choice', stem, choices: list, shuffle: true, rule: 'wrong-cancels-right', feedback };
}

function trueFalse(stem: string, answer: string | null, feedback: Feedback): QuestionContent | string | null {
  if (blank.test(stem) && !/^\W*_{3,}/.test(stem)) return null;
  const said = (answer ?? '').slice(0, longestLooked).trim();
  if (stem.length > longestLooked) {
    if (!yes.test(said) && !no.test(said)) return null;
    return { type: 'true-false', stem: richFromText(stem.trim()), answer: yes.test(said), feedback };
  }
  const statement = withoutHint(stem.replace(/^_{3,}\s*/, ''));
  if (yes.test(said) || no.test(said)) return { type: 'true-false', stem: statement, answer: yes.test(said), feedback };
  if (answer !== null) return null;
  const behind = verdict.exec(stem);
  if (behind)
    return {
      type: 'true-false',
      stem: withoutHint(stem.slice(0, behind.index)),
      answer: /^t/i.test((behind[1] ?? behind[2]) as string),
      feedback,
    };
  return asksTrueOrFalse.test(stem) ? 'Whether it is true or false is not said.' : null;
}

/** The statement without a "(T/F)", "True or false:" before or after it. */
function withoutHint(text: string): Rich {
  const left = text.replace(asksTrueOrFalse, ' ').replace(/ {2,}/g, ' ').trim();
  // "Is it true or false that …" is a sentence of its own.
  return richFromText(/^[A-Z(]/.test(left) || left === '' ? left || text.trim() : text.trim());
}

/** A word or two in brackets at the end of a question. */
const bracketsBehind = /(?<=[.?:!]\s*)(?:\{[^{}]{1,40}\}|\([^()]{1,40}\)|\[[^[\]]{1,40}\])\.?$/;
/** A few words behind the last question mark. */
const wordsBehind = /(?<=\?\s+)[^?\s][^?]{0,39}$/u;

/** What stands at the end of a question's text and may be its answer: brackets, a number, up to three words and no sentence. */
function answerBehind(stem: string): string | null {
  const brackets = bracketsBehind.exec(stem);
  if (brackets) return brackets[0];
  const words = wordsBehind.exec(stem)?.[0];
  const isSaid = words !== undefined && !/[.!:]$/.test(words) && words.split(/\s+/).length <= 3;
  return words !== undefined && (isSaid || readQuantity(words) !== null) ? words : null;
}

/** An answer of so many words is a model answer that a person marks by, not words to be typed alike. */
const longestAccepted = { characters: 80, words: 10 };

function openQuestion(
  stem: string,
  answer: string | null,
  feedback: Feedback,
  asks: string[],
): QuestionContent | string {
  if (blank.test(stem)) return gapFill(stem, answer ?? '', feedback, asks);
  const rich = richFromText(stem.trim());
  const answers = (answer ?? '').length > longestLooked ? [answer as string] : split(answer ?? '', asks);
  const written = (model: string): QuestionContent => ({
    type: 'written',
    stem: rich,
    modelAnswer: model ? richFromText(model) : emptyRich,
    words: { least: null, most: null },
    feedback,
  });
  if (answers.length === 0) {
    const behind = stem.length > longestLooked ? null : answerBehind(stem.trim());
    if (behind) asks.push(`Is “${behind.trim()}” the answer? It stands in the text that students read.`);
    return written('');
  }
  if ((answer ?? '').length > longestLooked) return written((answer as string).trim());
  const quantities = answers.map(readQuantity);
  if (quantities.every((one) => one !== null)) {
    asks.push(...quantities.flatMap((one) => one.asks));
    return numeric(
      rich,
      quantities.map((one) => one.value),
      feedback,
      asks,
    );
  }
  if (/^[+-−]?[\d.,]+$/.test((answer ?? '').replace(/\s/g, '')))
    asks.push(`“${answer?.trim()}” is not read as a number.`);
  if (answers.some((one) => one.length > longestAccepted.characters || one.split(/\s+/).length > longestAccepted.words))
    return written((answer ?? '').trim());
  if (answers.length === 1 && /^[A-H]$/i.test(answers[0] as string))
    asks.push(`“${answers[0]}” may be the letter of a choice, and no choices were found: is it the answer itself?`);
  return {
    type: 'short-text',
    stem: rich,
    feedback,
    matching: usualMatching,
    accepted: answers.map((text) => ({ text, credit: 1 })),
  };
}

function numeric(stem: Rich, quantities: Quantity[], feedback: Feedback, asks: string[]): QuestionContent {
  const units = [...new Set(quantities.flatMap((one) => one.unit ?? []))];
  if (units.length > 1) asks.push(`The answers have the units ${units.join(' and ')}; the first was taken for all.`);
  const [unit] = units;
  return {
    type: 'numeric',
    stem,
    feedback,
    accepted: quantities.map(({ value, tolerance }) => ({ value, tolerance, credit: 1 })),
    ...(unit
      ? { units: { list: [{ name: unit, factor: 1 }], entry: 'typed' as const, missing: 'assume' as const } }
      : {}),
  };
}

/** Several accepted answers, divided by semicolons, or by words and signs about which it is asked. */
function split(text: string, asks: string[]): string[] {
  const parts = (by: RegExp) =>
    text
      .split(by)
      .map((one) => one.trim())
      .filter(Boolean);
  const sure = parts(/;/);
  if (sure.length > 1) return sure;
  for (const by of [/\s+or\s+/i, /\s+\/\s+/, /\s*\|\s*/]) {
    const some = parts(by);
    if (some.length < 2 || some.length > 6) continue;
    asks.push(`“${text.trim()}” was read as ${counted(some.length, 'accepted answer')}: ${some.join('; ')}.`);
    return some;
  }
  return sure;
}

function gapFill(stem: string, answer: string, feedback: Feedback, asks: string[]): QuestionContent | string {
  const pieces = stem.split(blanks);
  const wanted = pieces.length - 1;
  const answers = answersOfGaps(answer, wanted, asks);
  if (answers.length !== wanted)
    return `The text has ${counted(wanted, 'blank')} and ${counted(answers.length, 'answer')}; divide answers by semicolons.`;
  const gaps = answers.map((one, i): Gap => {
    const accepted = one
      .split('|')
      .map((text) => text.trim())
      .filter(Boolean);
    const [first = ''] = accepted;
    const quantity = accepted.length === 1 ? readQuantity(first) : null;
    if (quantity) {
      asks.push(...quantity.asks);
      const gap = blankGap(`g${i}`, 'number', quantity.value.value);
      return gap.kind === 'number'
        ? {
            ...gap,
            accepted: [{ value: quantity.value.value, tolerance: quantity.value.tolerance, credit: 1 }],
            ...(quantity.value.unit
              ? { units: { list: [{ name: quantity.value.unit, factor: 1 }], entry: 'typed', missing: 'assume' } }
              : {}),
          }
        : gap;
    }
    const gap = blankGap(`g${i}`, 'text', first);
    return gap.kind === 'text' && accepted.length > 1
      ? { ...gap, accepted: accepted.map((text) => ({ text, credit: 1 })) }
      : gap;
  });
  const lines = stem.trim().split('\n');
  let gap = 0;
  return {
    type: 'gap-fill',
    feedback,
    gaps,
    stem: {
      type: 'doc',
      content: lines.map((line) => ({
        type: 'paragraph',
        content: line
          .split(blanks)
          .flatMap((text, i) => [
            ...(i > 0 ? [{ type: 'gap' as const, attrs: { id: `g${gap++}` } }] : []),
            ...(text ? [{ type: 'text' as const, text }] : []),
          ]),
      })),
    },
  };
}

/** The answers of so many gaps: divided by semicolons, or else by what gives just as many of them. */
function answersOfGaps(answer: string, wanted: number, asks: string[]): string[] {
  if (answer.length > longestLooked) return [];
  const parts = (by: RegExp) =>
    answer
      .split(by)
      .map((one) => one.trim())
      .filter(Boolean);
  const sure = parts(/;/);
  if (sure.length === wanted || wanted < 2) return sure;
  const numbered = parts(/(?:^|\s)\(?\d{1,2}[.)]\s*/);
  if (numbered.length === wanted && /\d{1,2}[.)]/.test(answer)) return numbered;
  for (const by of [/\s+\/\s+/, /\s*,\s*(?!\d)/, /\s+and\s+/i, /\s*,\s*(?!\d)|\s+and\s+/i]) {
    const some = parts(by);
    if (some.length !== wanted) continue;
    asks.push(`“${answer.trim()}” was divided into ${some.join('; ')}.`);
    return some;
  }
  return sure;
}

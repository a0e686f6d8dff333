import { emptyRich, type Rich, richFromText } from '../../base/rich';
import { counted } from '../../base/words';
import { type QuestionContent, questionContent } from '../../question/content';
import { usualMatching } from '../../question/text/acceptedText';
import { blankGap, type Gap } from '../../question/types/gap-fill/content';
import { readNumber } from '../../question/types/numeric/readNumber';

/** The parts of a question as they were found in a document: words, and which of them are right. */
export type Parts = {
  stem: string;
  choices: { text: string; right: boolean; feedback?: string }[];
  /** What stands behind "Answer:"; null where nothing does. */
  answer: string | null;
  solution?: string;
  hint?: string;
};

const blank = /_{3,}/;
const yes = /^(t|true|right|yes)\.?$/i;
const no = /^(f|false|wrong|no)\.?$/i;

/** A question made of its parts: the type follows from what there is. Gives reasons where nothing can be made. */
export function buildQuestion(parts: Parts): { content: QuestionContent } | { reasons: string[] } {
  const content = contentOf(parts);
  if (typeof content === 'string') return { reasons: [content] };
  const parsed = questionContent.safeParse(content);
  if (parsed.success) return { content: parsed.data };
  return { reasons: [...new Set(parsed.error.issues.map((issue) => issue.message))] };
}

const optional = (name: 'solution' | 'hint', text: string | undefined) => (text ? { [name]: richFromText(text) } : {});

function contentOf(parts: Parts): QuestionContent | string {
  const { choices, answer } = parts;
  const feedback = { ...optional('solution', parts.solution), ...optional('hint', parts.hint) };
  const stem = richFromText(parts.stem.trim());
  const answers = split(answer ?? '');
  if (choices.length > 0) {
    const marked = withAnswer(choices, answer);
    if (typeof marked === 'string') return marked;
    const right = marked.filter((choice) => choice.right).length;
    if (right === 0) return 'No choice is marked as right.';
    if (marked.length === 2 && yes.test(marked[0]?.text ?? '') && no.test(marked[1]?.text ?? '') && right === 1)
      return { type: 'true-false', stem, answer: marked[0]?.right ?? false, feedback };
    const list = marked.map((choice, i) => ({
      id: `c${i}`,
      content: richFromText(choice.text),
      right: choice.right,
      pinned: false,
      ...(choice.feedback ? { feedback: richFromText(choice.feedback) } : {}),
    }));
    if (right === 1) return { type: 'single-choice', stem, choices: list, shuffle: true, feedback };
    return { type: 'multiple-choice', stem, choices: list, shuffle: true, rule: 'wrong-cancels-right', feedback };
  }
  if (answer !== null && (yes.test(answer.trim()) || no.test(answer.trim())) && !blank.test(parts.stem))
    return { type: 'true-false', stem: withoutHint(parts.stem), answer: yes.test(answer.trim()), feedback };
  if (blank.test(parts.stem)) return gapFill(parts.stem, answers, feedback);
  if (answer === null || answers.length === 0) {
    if (/\(\s*t(rue)?\s*\/\s*f(alse)?\s*\)/i.test(parts.stem)) return 'Whether it is true or false is not said.';
    return { type: 'written', stem, modelAnswer: emptyRich, words: { least: null, most: null }, feedback };
  }
  const numbers = answers.map((one) => readNumber(one));
  if (numbers.every((one) => one.ok))
    return {
      type: 'numeric',
      stem,
      feedback,
      accepted: answers.map((value) => ({ value, tolerance: { kind: 'absolute', amount: 0 }, credit: 1 })),
    };
  return {
    type: 'short-text',
    stem,
    feedback,
    matching: usualMatching,
    accepted: answers.map((text) => ({ text, credit: 1 })),
  };
}

const split = (text: string): string[] =>
  text
    .split(';')
    .map((one) => one.trim())
    .filter(Boolean);

/** The statement without a "(T/F)" before or after it. */
const withoutHint = (text: string): Rich =>
  richFromText(text.replace(/ ?\(?\bt(?:rue)? ?\/ ?f(?:alse)?\)? ?[:.]? ?/i, ' ').trim());

function withAnswer(choices: Parts['choices'], answer: string | null): Parts['choices'] | string {
  if (answer === null) return choices;
  const letters = answer
    .toLowerCase()
    .replace(/\.$/, '')
    .replace(/\band\b|[,;/&()]/g, ' ')
    .split(/\s+/)
    .filter(Boolean);
  if (letters.length > 0 && letters.every((letter) => /^[a-t]$/.test(letter))) {
    const places = letters.map((letter) => letter.charCodeAt(0) - 97);
    if (places.some((place) => place >= choices.length))
      return `The answer names choice ${answer.trim()}, and there are only ${choices.length} choices.`;
    return choices.map((choice, i) => ({ ...choice, right: places.includes(i) }));
  }
  const same = (a: string) => a.trim().toLowerCase().replace(/\.$/, '');
  const at = choices.findIndex((choice) => same(choice.text) === same(answer));
  if (at < 0) return `The answer “${answer.trim()}” is none of the choices.`;
  return choices.map((choice, i) => ({ ...choice, right: i === at }));
}

function gapFill(stem: string, answers: string[], feedback: QuestionContent['feedback']): QuestionContent | string {
  const pieces = stem.split(/_{3,}/);
  if (pieces.length - 1 !== answers.length)
    return `The text has ${pieces.length - 1} blanks and ${counted(answers.length, 'answer')}; divide answers by semicolons.`;
  const gaps = answers.map((answer, i): Gap => {
    const [first = ''] = answer.split('|');
    return blankGap(`g${i}`, readNumber(answer).ok ? 'number' : 'text', first.trim());
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
          .split(/_{3,}/)
          .flatMap((text, i) => [
            ...(i > 0 ? [{ type: 'gap' as const, attrs: { id: `g${gap++}` } }] : []),
            ...(text ? [{ type: 'text' as const, text }] : []),
          ]),
      })),
    },
  };
}

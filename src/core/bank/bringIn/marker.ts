import { longestLooked } from './line';

/** What stands at the beginning of a line and says what the line is. */
export type Marker =
  /** @property at the number; 0 where a sign says that a question begins, and its number is not told */
  | { kind: 'number'; at: number; form: string }
  | { kind: 'letter'; at: number; form: string }
  | { kind: 'roman'; at: number; form: string }
  | { kind: 'bullet'; form: string };

/** A line's beginning taken apart. */
export type Marked = {
  marker: Marker | null;
  /** What stands behind the marker. */
  rest: string;
  /** Whether a star, a tick or an arrow stands before the words, or "(correct)" behind them. */
  isMarked: boolean;
  /** Whether the mark stands behind the words. */
  isMarkedBehind: boolean;
  /** A key that stands before a number, as in `T 1. …` or `(B) 4. …`. */
  leadKey: string | null;
  /** How many characters the marker takes. */
  lead: number;
};

const mark = '[*✓✔☑√✅→➔⇒]|=>|->|>>';
const numbered =
  /^(?:(?:question|quest\.?|item|problem|no\.?|nr\.?|q\.?)\s*#?\s*|#\s*)?(\d{1,4})\s*([.):\]]|\s[-–—](?=\s)|\/(?=\s))(?![\d])\s*/iu;
const bracketed = /^[([](\d{1,3})[)\]]\s*/u;
const saidNumber = /^(?:(?:question|item|problem)\s+|q\s*)#?(\d{1,4})(?:\s+of\s+\d+)?\s*(?:[.:)]\s*|$|(?=[([]))/iu;
/** `Q:` or `Question:` before every question, without a number. */
const unnumbered = /^(?:q|question)\s*(?::|\.(?=\s))\s*(?=\S)/iu;
const lettered = new RegExp(
  `^((?:${mark})?)\\s*(\\(|\\[)?([a-tA-T])(?:([.)\\]:])(?!\\S*[.]\\S)|\\s?[-–](?=\\s))\\s*((?:${mark})?)\\s*`,
  'u',
);
const roman = /^\(?(i{1,3}|iv|v|vi{0,3}|ix|x)([.)])\s+/iu;
const ticked = /^[[(]\s?([xX✓✔*])\s?[\])]\s*/u;
const unticked = /^[[(][\s_]?[\])]\s*/u;
const box = /^([☑☒✅☐□❑❏⬜])\s*/u;
const dot = /^([●◉⦿○◯])\s+/u;
const bullet = /^([-–—•·▪▫‣◦o∙*+])\s+/u;
const tick = /^(?:[✓✔√✅]|→|➔|⇒|=>|->|>>)\s*(?=\S)/u;
const star = /^\*(?=[^\s*])/u;
/** "(correct)", "← right answer", a star, a tick or a ticked box behind a choice. */
const ending =
  /\s*(?:[*✓✔☑√✅]|(?:←|<-+|<=+)\s*(?:this|correct|right|key|answer|correct answer|right answer)?|[([{]\s*(?:correct|right|key|answer|true answer|correct answer|right answer|the right one|✓|✔|\*)\s*[)\]}]|\[\s?x\s?\]|\s[-–—]\s*(?:correct|right)(?: answer)?)\s*[.]?$/iu;
/** "✗", "(wrong)" or an empty box behind a choice: it says nothing more than that it is not marked, and is no part of its words. */
const wrongEnding = /\s*(?:[✗✘❌]|\[[\s_]?\]|[([{]\s*(?:wrong|incorrect|not correct|✗|✘)\s*[)\]}])\s*[.]?$/iu;
const leading =
  /^(?:_*\s*([A-HTF]|[Tt]rue|TRUE|[Ff]alse|FALSE)\s*_*|[([]([A-HTF])[)\]])\s+(?=(?:[Qq]uestion\s+)?\d{1,4}\s*[.)](?!\d))/u;
const romanValues = ['i', 'ii', 'iii', 'iv', 'v', 'vi', 'vii', 'viii', 'ix', 'x'];

/** Wide signs of East Asian typing as the narrow ones, one for one. */
const narrow = (text: string): string =>
  text.replace(/[\uff01-\uff5e]/g, (sign) => String.fromCharCode(sign.charCodeAt(0) - 0xfee0)).replace(/\u3000/g, ' ');

/** The form of a bracket or point around a number or letter, by which lines of one list know one another. */
const formOf = (open: string | undefined, close: string | undefined, what: string): string =>
  `${open ?? ''}${what}${(close ?? '').trim().replace(/[–—]/, '-')}`;

/** What stands behind a marker, and whether it is marked as right. */
function ended(rest: string): { rest: string; isMarked: boolean } {
  const found = ending.exec(rest);
  if (found && found.index > 0) return { rest: rest.slice(0, found.index).trim(), isMarked: true };
  const wrong = wrongEnding.exec(rest);
  return { rest: wrong && wrong.index > 0 ? rest.slice(0, wrong.index).trim() : rest, isMarked: false };
}

/**
 * Takes the beginning of a line apart: its number, letter or bullet, and the marks by which people tell the right choice.
 * What only looks like a number (`1.5 knots`, `12:30`) is none.
 */
export function markedLine(text: string): Marked {
  if (text.length > longestLooked)
    return { marker: null, rest: text, isMarked: false, isMarkedBehind: false, leadKey: null, lead: 0 };
  const wide = /^.{0,6}[\uff01-\uff5e]/u.test(text) ? narrow(text.slice(0, 6)) + text.slice(6) : text;
  const key = leading.exec(wide);
  const leadKey = key ? (key[1] ?? key[2] ?? null) : null;
  const said = key ? wide.slice(key[0].length) : wide;
  const before = wide.length - said.length;
  const found = (marker: Marker | null, length: number, isMarked = false): Marked => {
    const words = said.slice(length).trim();
    // A mark may stand behind a bullet or box as well.
    const inner = marker?.kind === 'bullet' ? (tick.exec(words) ?? star.exec(words)) : null;
    const behind = ended(inner ? words.slice(inner[0].length) : words);
    return {
      marker,
      rest: behind.rest,
      isMarked: isMarked || inner !== null || behind.isMarked,
      isMarkedBehind: behind.isMarked,
      leadKey,
      lead: before + length,
    };
  };
  const inWords = saidNumber.exec(said);
  if (inWords) return found({ kind: 'number', at: Number(inWords[1]), form: 'question #' }, inWords[0].length);
  const begun = unnumbered.exec(said);
  if (begun) return found({ kind: 'number', at: 0, form: 'question' }, begun[0].length);
  const number = numbered.exec(said);
  if (number)
    return found({ kind: 'number', at: Number(number[1]), form: formOf('', number[2], '#') }, number[0].length);
  const inBrackets = bracketed.exec(said);
  if (inBrackets) return found({ kind: 'number', at: Number(inBrackets[1]), form: '(#)' }, inBrackets[0].length);
  const checked = ticked.exec(said);
  if (checked) return found({ kind: 'bullet', form: '[ ]' }, checked[0].length, true);
  const romanNumber = roman.exec(said);
  // i. is a letter as well: which of the two is seen by the line below.
  if (romanNumber && (romanNumber[1] as string).toLowerCase() !== 'i')
    return found(
      {
        kind: 'roman',
        at: romanValues.indexOf((romanNumber[1] as string).toLowerCase()),
        form: formOf('', romanNumber[2], 'i'),
      },
      romanNumber[0].length,
    );
  const unchecked = unticked.exec(said);
  if (unchecked) return found({ kind: 'bullet', form: '[ ]' }, unchecked[0].length);
  const letter = lettered.exec(said);
  if (letter) {
    const [all, first, open, sign, close, second] = letter as unknown as [
      string,
      string,
      string?,
      string?,
      string?,
      string?,
    ];
    const at = (sign as string).toLowerCase().charCodeAt(0) - 97;
    return found({ kind: 'letter', at, form: formOf(open, close ?? '-', 'a') }, all.length, Boolean(first || second));
  }
  const boxed = box.exec(said) ?? dot.exec(said);
  if (boxed) return found({ kind: 'bullet', form: '☐' }, boxed[0].length, /[☑☒✅●◉⦿]/u.test(boxed[1] as string));
  const listed = bullet.exec(said);
  if (listed) return found({ kind: 'bullet', form: listed[1] as string }, listed[0].length);
  const picked = tick.exec(said) ?? star.exec(said);
  if (picked) return found(null, picked[0].length, true);
  return found(null, 0);
}

const inARow = /(?:^|\s)([([]?)([a-hA-H])([.)\]])(?=\s*\S)/gu;
const markBefore = /(?:[*✓✔☑√✅→]|=>|->)(\s*)$/u;

/** The choices of one line, and whether a mark stands between two of them so that it may belong to either. */
export type Row = { pieces: string[]; isDoubtful: boolean; isByTab?: boolean };

/**
 * The choices that stand in one line, as in `a) port  b) starboard`, each with its letter; the first piece is what stands
 * before them, which may be empty.
 *
 * @returns null where the line holds no row of choices
 */
export function choicesInRow(text: string): Row | null {
  if (text.length > longestLooked) return null;
  let isDoubtful = false;
  const starts: { index: number; letter: number; form: string }[] = [];
  for (const match of text.matchAll(inARow)) {
    const index = match.index + match[0].search(/\S/);
    const mark = markBefore.exec(text.slice(0, index));
    const isApart = mark !== null && mark[1] !== '' && !/(?:^|\s\s|\t)$/.test(text.slice(0, mark.index));
    if (isApart) isDoubtful = true;
    starts.push({
      // A mark before the letter belongs to it.
      index: mark && !isApart ? mark.index : index,
      letter: (match[2] as string).toLowerCase().charCodeAt(0) - 97,
      form: `${match[1]}${match[3]}`,
    });
  }
  const [first] = starts;
  if (!first || starts.length < 2) return null;
  const row = starts.filter((one) => one.form === first.form);
  // a b c …, or every second one of a list in two columns.
  const rises = row.every((one, i) => i === 0 || one.letter > (row[i - 1]?.letter ?? 0));
  const begins = first.letter === 0 || first.index === 0;
  if (!rises || !begins || row.length < 2) return null;
  if (first.index > 0 && (row[1]?.letter ?? 0) !== 1) return null;
  return {
    pieces: [
      text.slice(0, first.index).trim(),
      ...row.map((one, i) => text.slice(one.index, row[i + 1]?.index ?? text.length).trim()),
    ],
    isDoubtful,
  };
}

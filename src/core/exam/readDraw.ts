import { folded } from '../base/words';
import { questionTypeNames } from '../question/definitions';
import { difficulties, questionTypes } from '../question/types';
import type { DrawLine, PassageLine, PoolRule } from './design';

/** What a typed draw can name, by the names people know. */
export type DrawNames = {
  /** Each by its name with those above it: "Tides › Heights". */
  categories: readonly { id: string; name: string }[];
  exams: readonly { id: string; title: string }[];
  objectives: readonly { id: string; code: string; wording: string }[];
  tags: readonly string[];
};

/** One thing that typed words can mean. */
export type DrawOption = {
  kind: 'category' | 'exam' | 'objective' | 'tag' | 'difficulty' | 'type';
  /** An id; of a tag, difficulty or type the value itself. */
  value: string;
  /** How it is written in full; read again it means this one, unless another is called the same. */
  says: string;
};

/** A stretch of what was typed and what it was read as. */
export type DrawPiece = {
  from: number;
  to: number;
  as: DrawOption['kind'] | 'count' | 'points' | 'questions' | 'rest' | 'joining' | 'asked' | 'unread';
  /** What it means, or of an asked piece all that it can mean. */
  options: DrawOption[];
};

/** A draw as it was typed. */
export type ReadDraw = {
  /** The line it makes; null while something is not read, has to be asked or is missing. */
  line: Typed<DrawLine> | Typed<PassageLine> | null;
  pieces: DrawPiece[];
  /** What keeps it from being added, in words. */
  problems: string[];
};

/** What is taken where the sentence does not say it. */
export type UsualDraw = { count: number; points: number };

type Typed<Line> = Omit<Line, 'id'>;

/** Nobody types more in one sentence; beyond it nothing is read. */
export const longestDraw = 400;

const joining = new Set(
  'a an and any at by draw each every from in into of or per point points question questions the to with worth'.split(
    ' ',
  ),
);
const leadsToSource = new Set(['from', 'in']);

type Word = { from: number; to: number; text: string; parts: string[]; endsRun: boolean };

const partsOf = (text: string): string[] => folded(text).match(/[\p{L}\p{N}]+/gu) ?? [];
const same = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every((one, i) => one === b[i]);
const beginsInOrder = (typed: readonly string[], name: readonly string[]) => {
  let at = 0;
  for (const one of typed) {
    while (at < name.length && !name[at]?.startsWith(one)) at++;
    if (at === name.length) return false;
    at++;
  }
  return true;
};

type Known = DrawOption & { own: string[]; whole: string[] };

function everythingNamed(names: DrawNames): Known[] {
  const known = (kind: DrawOption['kind'], value: string, says: string, own: string, whole = own): Known => ({
    kind,
    value,
    says,
    own: partsOf(own),
    whole: partsOf(whole),
  });
  return [
    ...names.categories.map(({ id, name }) => known('category', id, name, name.slice(name.lastIndexOf('›') + 1), name)),
    ...names.exams.map(({ id, title }) => known('exam', id, title, title)),
    ...names.objectives.map(({ id, code }) => known('objective', id, code, code)),
    ...names.tags.map((tag) => known('tag', tag, `#${tag}`, tag)),
  ];
}

/** How well typed words name something: 0 as it is called, 1 as the beginnings of its words, 2 with words of what it lies below; null not at all. */
function howWell(typed: readonly string[], one: Known): number | null {
  if (typed.length === 0) return null;
  if (same(typed, one.own) || same(typed, one.whole)) return 0;
  if (beginsInOrder(typed, one.own)) return 1;
  const last = typed.at(-1) as string;
  return beginsInOrder(typed, one.whole) && one.own.some((word) => word.startsWith(last)) ? 2 : null;
}

const option = ({ kind, value, says }: DrawOption): DrawOption => ({ kind, value, says });

const language: Known[] = [
  ...difficulties.map((one) => ({ kind: 'difficulty' as const, value: one, says: one, own: [one], whole: [one] })),
  ...questionTypes.map((one) => {
    const says = questionTypeNames[one].toLowerCase();
    return { kind: 'type' as const, value: one, says, own: partsOf(says), whole: partsOf(says) };
  }),
];

function wordsOf(text: string): Word[] {
  return [...text.matchAll(/(?:\d,\d|[^\s,;])+/g)].map((found) => {
    const to = found.index + found[0].length;
    return {
      from: found.index,
      to,
      text: found[0],
      parts: partsOf(found[0]),
      endsRun: /^\s*[,;]/.test(text.slice(to, to + 20)),
    };
  });
}

const numeral = /^[0-9]{1,6}(?:[.,][0-9]{1,4})?$/;
const pointWord = /^(?:p|pt|pts|points?)$/;
const pointsTogether = /^([0-9]{1,6}(?:[.,][0-9]{1,4})?)(?:p|pt|pts|points?)$/;
const number = (text: string) => Number(text.replace(',', '.'));

/**
 * Reads a draw typed as a sentence, in any order: how many ("3"), from where (categories by their names or the beginnings
 * of their words, "alone" without what lies below; exams), what they must be (a difficulty, a type, the code of an
 * objective, a tag, "not used for 120 days"), and for how many points ("2p"). "2 passages with 3 questions" draws passages.
 * The longest run of words that names something is taken; where it can mean several things equally well nothing is
 * chosen, and all of them are told. Nothing typed is passed over in silence.
 *
 * @param usual how many and for how many points, where it is not said
 */
export function readDraw(typed: string, names: DrawNames, usual: UsualDraw): ReadDraw {
  const text = typed.slice(0, longestDraw);
  const reader = new DrawReader(text, everythingNamed(names));
  reader.read();
  const problems = [...reader.problems];
  if (typed.length > longestDraw) problems.unshift(`Only the first ${longestDraw} signs are read.`);
  const { pool } = reader;
  if (problems.length === 0 && pool.categories.length + (pool.exams?.length ?? 0) === 0)
    problems.push('Say where to draw from: a category by its name, or an exam.');
  const count = reader.count ?? (reader.passages ? 1 : usual.count);
  const points = reader.points ?? usual.points;
  const most = reader.passages ? 50 : 500;
  if (!Number.isInteger(count) || count < 1 || count > most)
    problems.push(`How many to draw is a whole number from 1 to ${most}.`);
  if (!(points > 0 && points <= 1_000)) problems.push('Points are a number above 0, at most 1000.');
  const questions = reader.questions ?? 2;
  if (reader.passages && !(Number.isInteger(questions) && questions >= 1 && questions <= 50))
    problems.push('Of each passage 1 to 50 questions can be asked.');
  const line: ReadDraw['line'] =
    problems.length > 0
      ? null
      : reader.passages
        ? { kind: 'passage', count, questions, points, pool }
        : { kind: 'draw', count, points, pool };
  return { line, pieces: reader.pieces, problems };
}

/** Words in a row that name something: `isExact` where they are its whole name. */
type Run = { length: number; isExact: boolean; options: DrawOption[] };

class DrawReader {
  readonly pieces: DrawPiece[] = [];
  readonly problems: string[] = [];
  readonly pool: PoolRule = { categories: [], difficulties: [] };
  count: number | null = null;
  points: number | null = null;
  questions: number | null = null;
  passages = false;
  private readonly words: Word[];

  constructor(
    private readonly text: string,
    private readonly named: readonly Known[],
  ) {
    this.words = wordsOf(text);
    this.passages = this.words.some((word) => /^passages?$/i.test(word.text));
  }

  read() {
    let at = 0;
    let source = false;
    while (at < this.words.length) {
      const before = folded(this.words[at]?.text ?? '');
      at +=
        this.readRest(at) || this.readPoints(at) || this.readName(at, source) || this.readNumber(at) || this.leave(at);
      source = leadsToSource.has(before);
    }
  }

  private word = (at: number) => folded(this.words[at]?.text ?? '');

  private push(at: number, length: number, as: DrawPiece['as'], options: DrawOption[] = []): number {
    const from = (this.words[at] as Word).from;
    const to = (this.words[at + length - 1] as Word).to;
    this.pieces.push({ from, to, as, options });
    return length;
  }

  /** "not used for 120 days", "not used in the last 8 weeks". */
  private readRest(at: number): number {
    if (this.word(at) !== 'not' || this.word(at + 1) !== 'used') return 0;
    let on = at + 2;
    while (['for', 'in', 'the', 'last', 'within'].includes(this.word(on))) on++;
    const unit = /^(day|week)s?$/.exec(this.word(on + 1))?.[1];
    if (!numeral.test(this.word(on)) || !unit) return 0;
    const days = number(this.word(on)) * (unit === 'week' ? 7 : 1);
    if (!Number.isInteger(days) || days < 1 || days > 3_650)
      this.problems.push('Questions can rest from 1 to 3650 whole days.');
    this.pool.restDays = days;
    return this.push(at, on + 2 - at, 'rest');
  }

  private readPoints(at: number): number {
    const together = pointsTogether.exec(this.word(at))?.[1];
    const apart = numeral.test(this.word(at)) && pointWord.test(this.word(at + 1)) ? this.word(at) : undefined;
    const said = together ?? apart;
    if (said === undefined) return 0;
    if (this.points !== null) this.problems.push('The points are said twice.');
    this.points = number(said);
    return this.push(at, together === undefined ? 2 : 1, 'points');
  }

  private readNumber(at: number): number {
    const said = this.word(at);
    if (/^passages?$/.test(said)) return this.push(at, 1, 'joining');
    if (!numeral.test(said)) return 0;
    if (this.passages && /^questions?$/.test(this.word(at + 1)) && this.questions === null) {
      this.questions = number(said);
      return this.push(at, 2, 'questions');
    }
    if (this.count !== null) return 0;
    this.count = number(said);
    return this.push(at, 1, 'count');
  }

  /** What the longest run of words from here names, the words of the language before names of the same length. */
  private readName(at: number, afterFrom: boolean): number {
    const first = this.words[at] as Word;
    if (numeral.test(this.word(at)) && this.count === null) return 0;
    const onlyTags = first.text.startsWith('#');
    const among = onlyTags
      ? this.named.filter((one) => one.kind === 'tag')
      : afterFrom
        ? this.named.filter((one) => one.kind === 'category' || one.kind === 'exam')
        : this.named;
    const own = this.longest(at, among);
    const said = onlyTags ? null : this.longest(at, language);
    const isJoining = joining.has(this.word(at));
    const spoken = Math.max(said?.length ?? 0, isJoining ? 1 : 0);
    const found = own && (own.length > spoken || (afterFrom && own.isExact && own.length === spoken)) ? own : said;
    if (!found || (isJoining && found.length === 1 && !found.isExact)) return 0;
    if (found.options.length > 1) {
      const names = found.options.slice(0, 4).map((one) => one.says);
      const more = found.options.length - names.length;
      this.problems.push(
        `“${this.between(at, found.length)}” can mean ${names.join(' or ')}${more ? `, or one of ${more} more` : ''}: write more of it.`,
      );
      return this.push(at, found.length, 'asked', found.options);
    }
    const one = found.options[0] as DrawOption;
    this.take(one, at + found.length);
    const alone = one.kind === 'category' && /^(?:alone|only)$/.test(this.word(at + found.length)) ? 1 : 0;
    return this.push(at, found.length + alone, one.kind, [one]);
  }

  private between(at: number, length: number): string {
    return this.text.slice((this.words[at] as Word).from, (this.words[at + length - 1] as Word).to);
  }

  private longest(at: number, among: readonly Known[]): Run | null {
    let best: Run | null = null;
    const typed: string[] = [];
    let still = among;
    for (let length = 1; at + length <= this.words.length && length <= 14; length++) {
      const word = this.words[at + length - 1] as Word;
      typed.push(...word.parts);
      // A run ends with a word, not with the sign between two names.
      if (word.parts.length > 0) {
        // What does not begin with these words does not begin with more of them either.
        still = still.filter((one) => beginsInOrder(typed, one.whole));
        if (still.length === 0) break;
        const fits = still.flatMap((one) => {
          const how = howWell(typed, one);
          return how === null ? [] : [{ one, how }];
        });
        const least = Math.min(...fits.map(({ how }) => how));
        // Of a number alone it is never guessed what it is the name of.
        const isNumber = typed.every((one) => numeral.test(one));
        if (isNumber ? least === 0 : fits.length > 0)
          best = {
            length,
            isExact: least === 0,
            options: fits.filter(({ how }) => how === least).map(({ one }) => option(one)),
          };
      }
      if (word.endsRun) break;
    }
    return best;
  }

  private take(one: DrawOption, next: number) {
    const pool = this.pool;
    const add = <T>(all: readonly T[] | undefined, value: T): T[] =>
      all?.includes(value) ? [...all] : [...(all ?? []), value];
    if (one.kind === 'category') {
      const below = !/^(?:alone|only)$/.test(this.word(next));
      if (!pool.categories.some(({ id }) => id === one.value)) pool.categories.push({ id: one.value, below });
    } else if (one.kind === 'exam') pool.exams = add(pool.exams, one.value);
    else if (one.kind === 'objective') pool.objectives = add(pool.objectives, one.value);
    else if (one.kind === 'tag') pool.tags = add(pool.tags, one.value);
    else if (one.kind === 'difficulty') pool.difficulties = add(pool.difficulties, one.value as never);
    else pool.types = add(pool.types ?? [], one.value as never);
  }

  /** A joining word says nothing; any other word that was not read is told. */
  private leave(at: number): number {
    const word = this.words[at] as Word;
    if (joining.has(this.word(at)) || word.parts.length === 0) return this.push(at, 1, 'joining');
    this.problems.push(
      numeral.test(word.text)
        ? `“${word.text}” is a second number: points are written “${word.text}p”.`
        : `“${word.text}” is no category, exam, objective, tag, difficulty or type known here.`,
    );
    return this.push(at, 1, 'unread');
  }
}

/** What one can go on with at a place of the sentence, and the stretch that it takes the place of. */
export type DrawCompletion = { from: number; to: number; options: DrawOption[] };

/** What stands at the caret could become these, the best first; where a new word begins, whatever can be drawn from. */
export function completeDraw(typed: string, caret: number, names: DrawNames, most = 8): DrawCompletion | null {
  const text = typed.slice(0, longestDraw);
  const known = everythingNamed(names);
  const reader = new DrawReader(text, known);
  reader.read();
  const piece = reader.pieces.findLast((one) => one.from < caret && caret <= one.to);
  if (!piece) {
    const begins = caret === 0 || /[\s,;]/.test(text[caret - 1] ?? '');
    const sourced = reader.pool.categories.length + (reader.pool.exams?.length ?? 0) > 0;
    if (!begins || sourced || text.trim() === '') return null;
    return { from: caret, to: caret, options: known.slice(0, most).map(option) };
  }
  if (['count', 'points', 'questions', 'rest', 'joining'].includes(piece.as)) return null;
  const words = partsOf(text.slice(piece.from, caret));
  const last = words.at(-1);
  if (last === undefined) return null;
  const onlyTags = text[piece.from] === '#';
  const fits = [...known, ...language].flatMap((one) => {
    if (onlyTags && one.kind !== 'tag') return [];
    const how = howWell(words, one) ?? (folded(one.says).includes(words.join(' ')) ? 3 : null);
    return how === null ? [] : [{ one, how }];
  });
  fits.sort((a, b) => a.how - b.how);
  const options = fits.slice(0, most).map(({ one }) => option(one));
  const isWhole = options.length === 1 && folded(options[0]?.says ?? '') === folded(text.slice(piece.from, piece.to));
  return options.length === 0 || isWhole ? null : { from: piece.from, to: piece.to, options };
}

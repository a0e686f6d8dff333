import type { Brought } from './brought';
import { finish, type Open } from './finishQuestion';
import { isVerdict, type KeyEntry, keyHeading, keysBelow, keysInLine, keyWithNumber } from './keyLists';
import { cleanText, type Line, longestLooked, tight } from './line';
import { type LineRole, lessonOf, type ReadLine, type SaidRole, type Taught, taughtRole } from './lineForms';
import { asks, goesOn, isAnswerLine, isShortList, isTrueOrFalse, listFollows, plainChoicesBelow } from './lookAhead';
import type { Marker } from './marker';
import { answerLine, answerSentence, note, type Piece, piecesOf } from './pieces';

/** A document that was read: what became of each line, and the questions found. */
export type Reading = { roles: ReadLine[]; items: Brought[] };

/** What a person said of lines, by their places from 0, and what they taught before. */
export type Corrections = { said: Readonly<Record<number, SaidRole>>; taught: Taught };

const noCorrections: Corrections = { said: {}, taught: {} };

/**
 * Reads questions from lines as people type them: numbered or not; choices with letters, numbers, bullets, boxes or on one
 * line, the right ones marked by a star, a tick, bold, underline or highlighting, by "Answer: B", or by a list of keys;
 * statements that are true or false; texts with blanks (`____`) whose answers stand behind "Answer:", divided by semicolons;
 * and lines that begin with Feedback, Solution, Hint, Points, Difficulty, Category, Tags, Objective or Name.
 *
 * Nothing is dropped: a line of which nothing could be made says so. What can be understood in more than one way is asked.
 */
export function readDocument(lines: readonly Line[], corrections: Corrections = noCorrections): Reading {
  return new Reader(lines, corrections).read();
}

/**
 * What corrections of lines teach for others of the same form, in the same text and the next one.
 *
 * @param said what was said of lines, by their places
 */
export function taughtBy(lines: readonly Line[], said: Readonly<Record<number, SaidRole>>, taught: Taught): Taught {
  if (Object.keys(said).length === 0) return taught;
  const read = readDocument(lines, { said: {}, taught });
  const pieces = piecesOf(lines);
  const lessons: Record<string, SaidRole> = { ...taught };
  for (const [line, role] of Object.entries(said)) {
    const piece = pieces.find((one) => one.line === Number(line));
    const before = read.roles[Number(line)];
    if (!piece || !before || before.role === role) continue;
    const lesson = lessonOf(piece, before.role, role);
    if (lesson) lessons[lesson[0]] = lesson[1];
  }
  return lessons;
}

/** Lines shorter than this, in signs, were ended by whoever typed them, and not by a margin. */
const shortest = 40;

/** What a paste leaves where a picture stood. */
const picture = /^\[picture(?:: .*)?\]$/;

/** A letter as the key, and why: `c, because both pull`. */
const keyWithReason = /^([([]?[a-t][)\].]?)[\s,;:.–—-]+((?:because|since)\s.+)$/iu;

/** A line that says that choices follow. */
const choicesHeading = /^(?:(?:answer\s+)?(?:choices|options)|possible\s+answers)\s*:?$/i;
/** Two things that may belong together, such as `port – red`. */
const pair = /^[^-–—=→]{1,40}\s(?:[-–—=→]|->|=>)\s[^-–—=→]{1,40}$/u;

const romanOf = (at: number) => ['I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X'][at] ?? String(at + 1);
/** Adds a line; one that goes on in the middle of a sentence, as typed lines are wrapped, is joined to the one above. */
function goOn(lines: string[], text: string, isWrapped: boolean): void {
  const above = lines[lines.length - 1] ?? '';
  const isMidway = isWrapped && above !== '' && !/[.?!:;]$/.test(above) && /^[\p{Ll}\p{Lo}\d(]/u.test(text);
  if (isMidway) lines[lines.length - 1] = above.endsWith('-') ? above + text : `${above} ${text}`;
  else lines.push(text);
}

/** The form of a choice, by which those of one list know one another. */
const formOfChoice = (marker: Marker | null): string =>
  marker === null
    ? ''
    : marker.kind === 'bullet' || marker.kind === 'number'
      ? marker.form
      : `${marker.kind}${marker.form}`;

class Reader {
  private pieces: Piece[];
  private roles: ReadLine[];
  private found: Open[] = [];
  /** Lines that belong to nothing yet: a stem, if choices or a key follow. */
  private loose: number[] = [];
  /** The first question with each number. */
  private numbered = new Map<number, Open>();
  private keys: (KeyEntry & { line: number })[] = [];
  private inKeys = false;
  /** Lines that are choices though nothing stands before them. */
  private plainChoices = new Set<number>();
  private said = new Map<number, SaidRole>();

  constructor(lines: readonly Line[], corrections: Corrections) {
    this.pieces = piecesOf(lines);
    this.roles = lines.map((line) => ({ role: cleanText(line) === '' ? 'blank' : 'unread', item: null, said: false }));
    this.pieces.forEach((piece, i) => {
      if (this.pieces[i - 1]?.line === piece.line) return;
      const role = corrections.said[piece.line] ?? taughtRole(piece, corrections.taught);
      if (role) this.said.set(i, role);
    });
  }

  read(): Reading {
    for (let i = 0; i < this.pieces.length; i++) this.readPiece(i);
    const used = this.keysOfQuestions();
    this.askAboutMarks();
    this.askAboutKeys();
    this.askAboutUnread();
    return { roles: this.roles, items: this.found.map((open, i) => finish(open, used.get(i) ?? [], this.roles)) };
  }

  private get open(): Open | undefined {
    return this.found[this.found.length - 1];
  }

  private piece(i: number): Piece | undefined {
    return this.pieces[i];
  }

  private role(i: number, role: LineRole, item: number | null = this.found.length - 1): void {
    const piece = this.pieces[i] as Piece;
    // The first of several choices in a line says what the line is.
    if (this.pieces[i - 1]?.line === piece.line && this.roles[piece.line]?.role !== 'unread') return;
    this.roles[piece.line] = { role, item, said: this.said.has(i) };
  }

  private readPiece(i: number): void {
    const piece = this.pieces[i] as Piece;
    const said = this.said.get(i);
    if (said) this.readSaid(i, piece, said);
    else if (piece.isProse && piece.marker?.kind === 'number') this.readNumber(i, piece, piece.marker);
    else if (piece.isProse) this.readPlain(i, piece);
    else if (picture.test(piece.whole)) {
      this.open?.warnings.push(
        `Line ${piece.line + 1} held a picture: put it into the question once it is in the bank.`,
      );
      // It stays unread, among the lines of its question.
      if (this.open) this.role(i, 'unread');
    } else if (!this.readKeys(i, piece) && !this.readAnswer(i, piece) && !this.readNote(i, piece))
      this.readText(i, piece);
  }

  private readText(i: number, piece: Piece): void {
    if (this.plainChoices.has(i)) {
      this.choice(i, piece);
      return;
    }
    const { marker } = piece;
    if (marker?.kind === 'number') {
      if (marker.at === 0) this.begin([i], marker);
      else this.readNumber(i, piece, marker);
      return;
    }
    if (this.readBelowStem(i, piece)) return;
    if ((marker?.kind === 'letter' || marker?.kind === 'roman') && this.readLetter(i, piece, marker)) return;
    if (marker?.kind === 'bullet' && this.readBullet(i, piece)) return;
    if (piece.isMarked && marker === null && this.open?.choices.length && this.loose.length === 0) {
      this.choice(i, piece);
      return;
    }
    this.readPlain(i, piece);
  }

  /** What has its meaning right below the text of a question alone: its verdict, its answer behind `A:`, a heading of choices. */
  private readBelowStem(i: number, piece: Piece): boolean {
    const { open } = this;
    if (open?.last !== 'stem' || this.loose.length > 0 || open.number === null) return false;
    const { marker } = piece;
    if (
      open.form === 'question' &&
      marker?.kind === 'letter' &&
      marker.at === 0 &&
      !listFollows(this.pieces, i, marker)
    ) {
      this.key(i, piece.text);
      return true;
    }
    if (choicesHeading.test(piece.whole)) {
      this.role(i, 'nothing', null);
      return true;
    }
    // Where both words stand below one another they are choices.
    if (!isTrueOrFalse(piece) || [i - 1, i + 1].some((beside) => isTrueOrFalse(this.piece(beside)))) return false;
    this.key(i, piece.whole);
    return true;
  }

  /** What a person said of a line. */
  private readSaid(i: number, piece: Piece, said: SaidRole): void {
    const behindColon = piece.marker ? piece.text : piece.whole.replace(/^[^:=]{1,40}[:=]\s*/u, '');
    this.inKeys = false;
    if (said === 'nothing') this.role(i, 'nothing', null);
    else if (said === 'question') this.begin([i], piece.marker?.kind === 'number' ? piece.marker : null);
    else if (!this.open && !this.beginLoose()) this.loose.push(i);
    else if (said === 'choice' || said === 'right') {
      this.beginLoose();
      this.choice(i, said === 'right' ? { ...piece, isMarked: true } : piece);
    } else if (said === 'key') this.key(i, piece.marker?.kind === 'letter' ? piece.whole : behindColon);
    else if (said === 'feedback') this.noted(i, 'feedback', behindColon);
    else this.more(i, piece);
  }

  /** A list of keys: a heading, and what stands below; or keys that stand by themselves. */
  private readKeys(i: number, piece: Piece): boolean {
    const take = (entries: KeyEntry[], ...at: number[]) => {
      for (const place of at) this.role(place, 'keys', null);
      this.keys.push(...entries.map((entry) => ({ ...entry, line: piece.line })));
      return true;
    };
    if (this.roles[piece.line]?.role === 'keys') return true;
    if (this.found.length === 0) return false;
    if (keyHeading.test(piece.whole)) {
      this.inKeys = true;
      return take([], i);
    }
    const row = keysInLine(piece.whole, this.inKeys || /^(?:answer\s*)?keys?\b/i.test(piece.whole) ? 1 : 2);
    if (row && (this.inKeys || this.isListOfKeys(row, piece))) return take(row, i);
    const next = this.piece(i + 1);
    const below = next && !next.isProse ? keysBelow(piece.whole, next.whole) : null;
    if (below) return take(below, i, i + 1);
    const entry = this.keyByNumber(piece);
    const isRun = (other: Piece | undefined) => Boolean(other && this.keyByNumber(other) && isVerdict(other.text));
    const stands = isVerdict(piece.text) && (isRun(next) || this.roles[this.piece(i - 1)?.line ?? -1]?.role === 'keys');
    if (entry && (this.inKeys || stands)) return take([entry], i);
    this.inKeys = false;
    return false;
  }

  /** Whether keys in one line are a list of keys, and not the answer of the question above. */
  private isListOfKeys(row: KeyEntry[], piece: Piece): boolean {
    if (/^(?:ans(?:wer)?)\s*[:=]/i.test(piece.whole) && row.length < 3) return false;
    // A single one is the key of another question with choices, not the answer of this one.
    if (row.length === 1)
      return this.found.some((open) => open.number === row[0]?.number && open !== this.open && open.choices.length > 0);
    return row.filter((one) => this.found.some((open) => open.number === one.number)).length * 2 > row.length;
  }

  /** The key that a numbered line gives a question above; null where it is a question itself. */
  private keyByNumber({ marker, text }: Piece): KeyEntry | null {
    if (marker?.kind !== 'number' || text === '') return null;
    const known = this.numbered.get(marker.at);
    if (!known || tight(known.stem.join(' ')) === text) return null;
    return { number: marker.at, key: text };
  }

  private readAnswer(i: number, piece: Piece): boolean {
    const said = answerSentence.exec(piece.whole)?.[1] ?? answerLine.exec(piece.whole)?.[1];
    if (said === undefined) return false;
    // A statement or question without a number or choices, with its key below it; a key of what was not read is unread too.
    if (this.loose.length > 0 && !this.beginLoose()) {
      this.loose.push(i);
      return true;
    }
    if (!this.open) return false;
    this.key(i, said.trim());
    return true;
  }

  private key(i: number, said: string): void {
    const { open } = this;
    if (!open) return;
    const reasoned = open.choices.length > 0 ? keyWithReason.exec(said) : null;
    const key = reasoned?.[1] ?? said;
    if (reasoned?.[2]) {
      const { explanation } = open.notes;
      open.notes.explanation = explanation ? `${explanation}\n${reasoned[2]}` : reasoned[2];
    }
    // A key may name its question again: `Key: 4b`.
    const own = keyWithNumber(key);
    const named = own && own.number === open.number && open.choices.length > 0 ? own.key : key;
    if (open.answer !== null) open.otherKeys.push(named);
    else open.answer = named;
    open.isKeyAbove = open.choices.length === 0;
    open.last = 'key';
    this.role(i, 'key');
  }

  private readNote(i: number, piece: Piece): boolean {
    const found = note.exec(piece.whole);
    if (!found) return false;
    if (this.loose.length > 0 && !this.open) return false;
    if (!this.open) return false;
    const name = (found[1] ?? '').toLowerCase().replace(/s$/, '');
    this.noted(i, name === 'mark' ? 'point' : name, (found[2] ?? '').trim());
    return true;
  }

  private noted(i: number, name: string, value: string): void {
    const { open } = this;
    if (!open) return;
    const lastChoice = open.choices[open.choices.length - 1];
    const isFeedback = name === 'feedback' || name === 'why' || name === 'reason';
    // Feedback right below a choice belongs to it, as long as more choices may follow.
    if (isFeedback && open.last === 'choice' && lastChoice) {
      lastChoice.feedback = value;
      this.role(i, 'feedback');
      return;
    }
    const kept = name === 'why' || name === 'reason' ? 'explanation' : name;
    open.notes[kept] = open.notes[kept] ? `${open.notes[kept]}\n${value}` : value;
    open.last = 'note';
    open.lastNote = kept;
    this.role(i, ['feedback', 'explanation', 'solution', 'rationale'].includes(kept) ? 'feedback' : 'note');
  }

  private readNumber(i: number, piece: Piece, marker: Marker & { kind: 'number' }): void {
    const { open } = this;
    const lastChoice = open?.choices[open.choices.length - 1];
    if (open && lastChoice?.form === marker.form && marker.form !== open.form && marker.at === lastChoice.letter + 2) {
      this.choice(i, piece);
      return;
    }
    const isList = marker.at === 1 && goesOn(this.pieces, i, marker);
    const isBelowStem = open && open.choices.length === 0 && open.last === 'stem' && this.loose.length === 0;
    if (isList && isBelowStem && open.form !== marker.form) {
      this.choice(i, piece);
      return;
    }
    const above = this.piece(this.loose[this.loose.length - 1] ?? -1);
    if (isList && above && !piece.gap && asks(above.whole) && isShortList(this.pieces, i, marker)) {
      this.beginLoose();
      this.choice(i, piece);
      return;
    }
    const numbered = this.found.findLast((one) => one.number !== null);
    const before = numbered?.number ?? null;
    const isFar = before !== null && (marker.at > before + 20 || (marker.at < before && marker.at !== 1));
    const continues = open && (open.last === 'stem' || open.last === 'choice') && !piece.gap && !piece.isParagraph;
    if (isFar && continues) {
      open.asks.push(`Line ${piece.line + 1} begins with a number and was read as going on with the line above.`);
      this.more(i, { ...piece, text: piece.whole });
      return;
    }
    this.begin([i], marker);
  }

  private readLetter(i: number, piece: Piece, given: Marker & { kind: 'letter' | 'roman' }): boolean {
    const next = this.piece(i + 1)?.marker;
    // i) is the first of roman numbers where ii) follows.
    const isRoman = given.kind === 'letter' && given.at === 8 && next?.kind === 'roman' && next.at === 1;
    const marker = isRoman ? { kind: 'roman' as const, at: 0, form: given.form.replace('a', 'i') } : given;
    const { open } = this;
    const lastChoice = open?.choices[open.choices.length - 1];
    const form = formOfChoice(marker);
    const asChoice = () => this.choice(i, piece, { letter: marker.at, form });
    if (marker.at === 0) {
      if (!listFollows(this.pieces, i, marker)) return false;
      // Statements with roman numbers that the choices speak of belong to the stem.
      if (open && lastChoice?.form.startsWith('roman') && marker.kind === 'letter' && this.loose.length === 0) {
        open.stem.push(...open.choices.map((one) => `${romanOf(one.letter)}. ${one.lines.join(' ')}`));
        open.choices = [];
        asChoice();
        return true;
      }
      if (this.loose.length > 0 && !this.beginLoose()) return false;
      if (!this.open) return false;
      if (open !== this.open) {
        asChoice();
        return true;
      }
      if (!open) return false;
      if (open.choices.length > 0) open.asks.push('Two lists of choices stand below one question.');
      asChoice();
      return true;
    }
    if (!open || this.loose.length > 0 || !lastChoice) return false;
    const ahead = marker.at - lastChoice.letter;
    if (lastChoice.form !== form && ahead !== 1) return false;
    // Choices in two columns come as a, c, b, d.
    const isNew = !open.choices.some((one) => one.letter === marker.at);
    if (ahead > 3 || !isNew) return false;
    asChoice();
    return true;
  }

  private readBullet(i: number, piece: Piece): boolean {
    const above = this.piece(this.loose[this.loose.length - 1] ?? -1);
    if (above) {
      const { open } = this;
      const wrapped = open?.last === 'choice' && !above.gap && !above.isParagraph && !asks(above.whole);
      if (!wrapped && !this.beginLoose()) return false;
    }
    if (!this.open) return false;
    if (this.open.last === 'key' || this.open.last === 'note') return false;
    this.choice(i, piece);
    return true;
  }

  private readPlain(i: number, piece: Piece): void {
    const { open } = this;
    if (this.findPlainChoices(i)) {
      this.begin([i], null);
      return;
    }
    const isApart = piece.gap || piece.isParagraph;
    if (!open || this.loose.length > 0 || open.last === 'key' || (isApart && open.last !== 'stem')) {
      this.loose.push(i);
      return;
    }
    this.more(i, piece);
  }

  private more(i: number, piece: Piece): void {
    const { open } = this;
    if (!open) return;
    this.role(i, 'more');
    const text = piece.marker || piece.isMarked ? piece.whole : piece.text;
    const looksLikeChoice = piece.marker?.kind === 'letter' && piece.marker.at <= 4;
    if (looksLikeChoice && !this.said.has(i))
      open.asks.push(`Line ${piece.line + 1} begins like a choice and was read as going on with the line above.`);
    const isWrapped = !piece.gap && !piece.isParagraph;
    if (open.last === 'choice' && !this.said.has(i) && this.beginsAnew(i, text))
      open.asks.push(`Line ${piece.line + 1} was read as going on with the choice above: is it part of it?`);
    if (open.last === 'choice') goOn(open.choices[open.choices.length - 1]?.lines ?? [], text, isWrapped);
    else if (open.last === 'note' && open.lastNote) {
      const note = (open.notes[open.lastNote] ?? '').split('\n');
      goOn(note, text, isWrapped);
      open.notes[open.lastNote] = note.join('\n');
    } else if (open.last === 'key') open.answer += ` ${text}`;
    else {
      if (pair.test(text.slice(0, longestLooked))) open.pairs++;
      goOn(open.stem, text, isWrapped);
    }
  }

  /**
   * Whether a line below a choice may be something else: it asks, or it begins like a sentence below a line that was too
   * short to be wrapped.
   */
  private beginsAnew(i: number, text: string): boolean {
    const above = this.piece(i - 1)?.whole ?? '';
    return asks(text) || (above.length < shortest && /^[\p{Lu}\d]/u.test(text));
  }

  private begin(at: number[], marker: (Marker & { kind: 'number' }) | null): void {
    const [first = 0, ...others] = at;
    const piece = this.pieces[first] as Piece;
    const text = marker ? piece.text : piece.whole;
    this.found.push({
      at: piece.line + 1,
      number: marker?.at ?? null,
      form: marker?.form ?? null,
      stem: text ? [marker && piece.isMarked ? piece.whole.slice(piece.whole.indexOf(piece.text)) : text] : [],
      choices: [],
      answer: null,
      isKeyAbove: false,
      otherKeys: piece.leadKey ? [piece.leadKey] : [],
      notes: {},
      last: 'stem',
      lastNote: '',
      pairs: 0,
      asks: [],
      warnings: [],
    });
    const made = this.found[this.found.length - 1] as Open;
    if (marker && marker.at > 0 && !this.numbered.has(marker.at)) this.numbered.set(marker.at, made);
    this.loose = [];
    this.role(first, 'question');
    for (const other of others) this.more(other, this.pieces[other] as Piece);
    if (marker) this.findPlainChoices(first);
  }

  /** Loose lines become a question: those below the last empty line, or the last paragraph. */
  private beginLoose(): boolean {
    const { loose } = this;
    if (loose.length === 0) return false;
    let start = loose.length - 1;
    while (start > 0 && !this.piece(loose[start] as number)?.gap && !this.piece(loose[start] as number)?.isParagraph)
      start--;
    const block = loose.slice(start);
    const [first, second] = block.map((at) => this.pieces[at] as Piece);
    // A choice whose question was lost is no question.
    if (first?.marker || block.some((at) => isAnswerLine(this.pieces[at]))) return false;
    this.begin(block, null);
    if (first && second && first.whole.length < 50 && !/[.,;?!:]$/.test(first.whole) && /^\p{Lu}/u.test(second.whole))
      this.open?.asks.push(`Line ${first.line + 1} may be a heading: it was read as the beginning of the question.`);
    return true;
  }

  /** Finds choices without letters below a question. @returns whether there are any */
  private findPlainChoices(i: number): boolean {
    const choices = plainChoicesBelow(this.pieces, i, (place) => this.said.has(place));
    for (const at of choices) this.plainChoices.add(at);
    return choices.length > 0;
  }

  private choice(i: number, piece: Piece, { letter, form }: { letter?: number; form?: string } = {}): void {
    const { open } = this;
    if (!open) return;
    const before = open.choices[open.choices.length - 1];
    const usual = piece.marker?.kind === 'letter' && this.said.has(i) ? piece.marker.at : (before?.letter ?? -1) + 1;
    open.choices.push({
      lines: [piece.marker || piece.isMarked ? piece.text : piece.whole],
      letter: letter ?? usual,
      form: form ?? formOfChoice(piece.marker),
      isMarked: piece.isMarked,
      isMarkedBehind: piece.isMarkedBehind,
      isStyled: piece.isStyled,
      gap: piece.gap,
      line: piece.line,
    });
    open.last = 'choice';
    const doubt = `In line ${piece.line + 1} a mark stands between two choices: to which does it belong?`;
    if (piece.isDoubtful && !open.asks.includes(doubt)) open.asks.push(doubt);
    this.role(i, 'choice');
  }

  /** Most people set their marks in one place: where some stand before the words and some behind, the fewer are looked at. */
  private askAboutMarks(): void {
    const marks = this.found.flatMap((open) =>
      open.choices.filter((one) => one.isMarked).map((one) => ({ open, isBehind: one.isMarkedBehind })),
    );
    const behind = marks.filter((one) => one.isBehind);
    const before = marks.filter((one) => !one.isBehind);
    const fewer = behind.length < before.length ? behind : before;
    for (const { open } of fewer)
      open.asks.push('The mark stands elsewhere than those of the other questions: is it at the right choice?');
  }

  /** Keys stand below the choices, or above them everywhere: one that stands above may be that of the question before. */
  private askAboutKeys(): void {
    const keyed = this.found.filter((open) => open.answer !== null && open.choices.length > 0);
    const above = keyed.filter((open) => open.isKeyAbove);
    if (above.length > 1 && above.length === keyed.length) return;
    for (const open of above) open.asks.push('Its key stands above its choices: is it the key of this question?');
  }

  /** A line that was not read right below one of a question may be part of it. */
  private askAboutUnread(): void {
    this.pieces.forEach((piece, i) => {
      const above = this.roles[this.pieces[i - 1]?.line ?? -1];
      if (this.roles[piece.line]?.role !== 'unread' || piece.gap || piece.isParagraph) return;
      if (above && above.item !== null)
        this.found[above.item]?.asks.push(`Line ${piece.line + 1} was not read: does it belong to this question?`);
    });
  }

  /** Which lists of keys speak of which question. Where numbers begin anew, the first key is of the first such question. */
  private keysOfQuestions(): Map<number, string[]> {
    const used = new Map<number, string[]>();
    const numbers = new Set(this.keys.map((one) => one.number));
    const usedLines = new Set<number>();
    for (const number of numbers) {
      const entries = this.keys.filter((one) => one.number === number);
      const places = this.found.flatMap((open, i) => (open.number === number ? [i] : []));
      if (entries.length > 1 && places.length === 1) {
        used.set(
          places[0] as number,
          entries.map((one) => one.key),
        );
        for (const one of entries) usedLines.add(one.line);
      } else if (entries.length === places.length) {
        entries.forEach((entry, i) => {
          used.set(places[i] as number, [entry.key]);
          usedLines.add(entry.line);
        });
      } else
        for (const place of places)
          this.found[place]?.asks.push(
            `There are ${places.length} questions with the number ${number}, and the key names it ${entries.length === 1 ? 'once' : `${entries.length} times`}.`,
          );
    }
    for (const { line } of this.keys)
      if (!usedLines.has(line)) this.roles[line] = { role: 'unread', item: null, said: false };
    if (used.size > 1)
      this.found.forEach((open, i) => {
        if (!used.has(i) && open.answer === null && open.choices.length === 0)
          open.asks.push('The list of keys does not name this question.');
      });
    return used;
  }
}

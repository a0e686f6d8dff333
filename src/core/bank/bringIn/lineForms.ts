import type { Marker } from './marker';

/** What a person can say that a line is. */
export const saidRoles = ['question', 'choice', 'right', 'key', 'feedback', 'more', 'nothing'] as const;
/** What a person said that a line is: the beginning of a question, a choice, a right one, the key, … */
export type SaidRole = (typeof saidRoles)[number];

/**
 * What a line was read as. `note`: points, category and the like; `keys`: part of a list of keys; `unread`: nothing could be
 * made of it; `blank`: it is empty.
 */
export type LineRole = SaidRole | 'note' | 'keys' | 'unread' | 'blank';

/** What became of one line. */
export type ReadLine = {
  role: LineRole;
  /** The question it belongs to, by its place among those read; null for none. */
  item: number | null;
  /** Whether a person said so, here or of lines of the same form. */
  said: boolean;
};

/** What corrections taught: the form of a line, and what lines of this form are. */
export type Taught = Readonly<Record<string, SaidRole>>;

/** What is seen of a line when its form is told. */
type Seen = { whole: string; marker: Marker | null; gap: boolean };

const words = /^([\p{L}][\p{L} ]{1,29})\s*[:=]/u;

/**
 * The forms of a line, the most telling first: the word before its colon, its marker, how it stands; and its words with all
 * digits alike, by which footers are recognised.
 */
function formsOf({ whole, marker, gap }: Seen): string[] {
  const word = words.exec(whole)?.[1];
  const forms: string[] = [];
  if (word) forms.push(`word/${word.trim().toLowerCase()}`);
  else if (marker) forms.push(`marker/${marker.form}`);
  else if (/[?:]$/.test(whole)) forms.push(`plain/${gap ? 'apart' : 'below'}/asks`);
  forms.push(`same/${whole.toLowerCase().replace(/\d+/g, '#').slice(0, 120)}`);
  return forms;
}

/** What lines of this form were said to be; undefined where nothing was said of them. */
export const taughtRole = (line: Seen, taught: Taught): SaidRole | undefined =>
  formsOf(line)
    .map((form) => taught[form])
    .find((role) => role !== undefined);

/**
 * What a correction teaches for the other lines of its form. That a line is nothing is learnt for lines of the same words
 * alone; and what was read as something by its marker is corrected one by one, since the marker was not what misled.
 *
 * @param before what the line had been read as
 */
export function lessonOf(line: Seen, before: LineRole, said: SaidRole): [form: string, role: SaidRole] | null {
  const forms = formsOf(line);
  const same = forms[forms.length - 1] as string;
  if (said === 'nothing') return [same, said];
  const [form] = forms;
  if (!form || form === same) return null;
  const wasUnsure = before === 'unread' || before === 'more';
  const isWord = form.startsWith('word/');
  const isBullet = line.marker?.kind === 'bullet';
  return wasUnsure || isWord || (isBullet && said !== 'right') ? [form, said] : null;
}

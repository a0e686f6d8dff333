import { fold } from '../../question/text/fold';
import { readNumber } from '../../question/types/numeric/readNumber';
import { longestLooked, tight } from './line';

/** What is taken, and what a person has to be asked about it. */
export type Asked<T> = { value: T; asks: string[] };

const everything = { case: true, accents: false, spacing: true };
/** Whether two texts have the same words, capitals, spaces and punctuation left aside. */
export const isAlike = (a: string, b: string): boolean => {
  const folded = fold(a, everything);
  // What is made of signs alone has no letters to compare.
  return folded === '' ? tight(a) === tight(b) : folded === fold(b, everything);
};

const letterAt = (letter: string): number => letter.toLowerCase().charCodeAt(0) - 97;

/** A choice to be found: its words, and the letter before it, counted from 0. */
export type Choice = { text: string; letter: number };

/**
 * Which choices a key names: by letters (`B`, `A and C`, `AC`, `(b)`), by a letter with the words behind it, by words, or by
 * a number. Where two ways of reading name different choices, both are told.
 *
 * @returns the places of the choices from 0, with what to ask; or why none is named
 */
export function placesNamed(key: string, choices: readonly Choice[]): Asked<number[]> | string {
  if (key.length > longestLooked) return 'The answer is longer than any choice.';
  const said = tidyKey(key);
  const asks: string[] = [];
  const byWords = choices.flatMap((choice, i) => (isAlike(choice.text, said) ? [i] : []));
  const byLetters = lettersNamed(said, choices);
  const byNumber = numberNamed(said, choices);
  const quoted = `“${tight(key)}”`;
  if (byWords.length > 1) return `The key ${quoted} is the text of more than one choice.`;
  if (byWords.length === 1) {
    const [other] = [byLetters, byNumber].filter((one) => typeof one === 'object' && one !== null);
    if (typeof other === 'object' && other && String(other) !== String(byWords))
      asks.push(`The key ${quoted} is the text of one choice and names another. The text was taken.`);
    return { value: byWords, asks };
  }
  if (typeof byLetters === 'string') return byLetters;
  if (byLetters) {
    if (/^[a-t](?:\s+[a-t])+$/i.test(said)) asks.push(`The key ${quoted} was read as several choices.`);
    return { value: byLetters, asks };
  }
  const both = letterAndWords(said, choices);
  if (typeof both === 'string') return both;
  if (both) return both;
  if (typeof byNumber === 'string') return byNumber;
  if (byNumber) return { value: byNumber, asks };
  const several = said
    .split(/\s*;\s*|\s+\band\b\s+/i)
    .map((words) => choices.findIndex((choice) => isAlike(choice.text, words)));
  if (several.length > 1 && several.every((at) => at >= 0)) return { value: [...new Set(several)], asks };
  return `The answer ${quoted} is none of the choices.`;
}

const tidyKey = (key: string): string =>
  tight(key)
    .replace(/^(?:is|option|choice|letter|answer|both)\s*:?\s+/i, '')
    .replace(/^[“"'](.+)[”"']$/u, '$1')
    .replace(/\s*\.$/, '')
    .replace(/\s+(?:is|are)\s+(?:correct|right|true)$/i, '');

function lettersNamed(said: string, choices: readonly Choice[]): number[] | string | null {
  const parts = said
    .replace(/\b(?:and|und|et|y|og|och)\b|[,;/&+()[\].]/gi, ' ')
    .split(/\s+/)
    .filter(Boolean);
  const together = /^[A-H]{2,6}$/.test(said) && new Set(said).size === said.length ? [...said] : null;
  const letters = together ?? parts;
  if (letters.length === 0 || !letters.every((letter) => /^[a-t]$/i.test(letter))) return null;
  const places: number[] = [];
  for (const letter of letters) {
    const at = choices.findIndex((choice) => choice.letter === letterAt(letter));
    if (at < 0)
      return together
        ? null
        : `The answer names choice ${letter.toUpperCase()}, and there ${choices.length === 1 ? 'is only 1 choice' : `are only ${choices.length} choices`}.`;
    if (!places.includes(at)) places.push(at);
  }
  return places;
}

function letterAndWords(said: string, choices: readonly Choice[]): Asked<number[]> | string | null {
  const found = /^[([]?([a-t])(?:[.):\]]|\s*[-–—=])\s*(\S.*)$/iu.exec(said) ?? /^([A-H])\s+(\S.*)$/u.exec(said);
  if (!found) return null;
  const at = choices.findIndex((choice) => choice.letter === letterAt(found[1] as string));
  const words = found[2] as string;
  const byWords = choices.findIndex((choice) => isAlike(choice.text, words));
  if (at < 0 && byWords < 0) return null;
  if (at === byWords) return { value: [at], asks: [] };
  if (at >= 0 && byWords < 0) {
    const begun = isAlike(words, (choices[at] as Choice).text.slice(0, words.length));
    if (begun) return { value: [at], asks: [] };
  }
  return {
    value: [at >= 0 ? at : byWords],
    asks: [
      byWords >= 0 && at >= 0
        ? `The key names choice ${(found[1] as string).toUpperCase()} and gives the words of another one. The letter was taken.`
        : `The key “${said}” and the words of the choice differ.`,
    ],
  };
}

function numberNamed(said: string, choices: readonly Choice[]): number[] | string | null {
  const parts = said.replace(/^#/, '').split(/\s*[,;&]\s*|\s+and\s+/);
  if (!parts.every((part) => /^\d{1,2}[.)]?$/.test(part))) return null;
  const numbers = parts.map((part) => Number.parseInt(part, 10));
  if (numbers.some((at) => at < 1 || at > choices.length)) return `The answer “${said}” is none of the choices.`;
  return [...new Set(numbers.map((at) => at - 1))];
}

/** A number that is asked for, with what it may differ by and its unit. */
export type Quantity = {
  value: string;
  tolerance: { kind: 'absolute' | 'relative'; amount: number };
  unit: string | null;
};

const number =
  "[+-−–]?\\s?(?:\\d[\\d.,  ']*\\d|\\d|[.,]\\d+)(?:\\s?/\\s?\\d+|\\s?[eE][+-]?\\d+|\\s?[x×*·]\\s?10\\^?[+-]?\\d+)?";
const unitName = '[\\p{L}°%\'"′″µΩ€$£][\\p{L}\\p{N}°%\'"′″µ²³/·^⁻¹-]*';
/** No number with its tolerance and its unit is longer, in signs. */
const longestQuantity = 120;
const about = /^(?:about|approx(?:imately|\.)?|ca\.?|circa|roughly|around|≈|~)\s*/iu;
const within = new RegExp(
  `^(${number})\\s*(${unitName})?\\s*[([]?\\s*(?:±|\\+/-|\\+-|\\+\\s?/\\s?−|tolerance:?|within)\\s*(${number})\\s*(${unitName}|%)?\\s*[)\\]]?$`,
  'iu',
);
const between = new RegExp(
  `^(?:between|from)?\\s*(${number})\\s*(?:to|and|\\.\\.\\.?|…|–|—|-|up to)\\s*(${number})\\s*(${unitName})?$`,
  'iu',
);
const alone = new RegExp(`^([$€£])?\\s*(${number})\\s*(${unitName})?$`, 'iu');
const knownUnits = new Set(
  "m km cm mm µm nm NM M kn kt kts knots knot h hr hrs hours hour min mins minutes minute s sec seconds second d days day ° deg degrees degree °C °F K % percent kg g mg t lb l L ml mL V mV A mA W kW N kN J kJ Pa kPa hPa mbar bar Hz kHz MHz Ω ohm mol m/s km/h km/t m/s² m/s2 m² m2 m³ m3 cm² cm2 cm³ cm3 $ € £ cables cable miles mile metres metre meters meter feet foot ft fathoms fathom nautical-miles litres litre years year '".split(
    ' ',
  ),
);

/**
 * Reads the answer to a question that asks for a number: `75`, `75 ± 1`, `12 m`, `70 to 80`, `$5`. What can be understood in
 * two ways is read in one and asked about.
 *
 * @returns null where this is no number
 */
export function readQuantity(text: string): Asked<Quantity> | null {
  if (text.length > longestQuantity) return null;
  const asks: string[] = [];
  let said = tight(text).replace(/\.$/, '');
  if (about.test(said)) {
    said = said.replace(about, '');
    asks.push('“About” is no tolerance: say how far from it is still right.');
  }
  const tolerated = within.exec(said);
  if (tolerated) {
    const [, value = '', unit, amount = '', amountUnit] = tolerated;
    const middle = oneNumber(value, asks);
    const by = oneNumber(amount, asks);
    if (middle === null || by === null) return null;
    const difference = Math.abs(readValue(by));
    if (amountUnit === '%' && unit !== '%')
      return {
        value: { value: middle, tolerance: { kind: 'relative', amount: difference / 100 }, unit: unit ?? null },
        asks,
      };
    return {
      value: { value: middle, tolerance: { kind: 'absolute', amount: difference }, unit: unit ?? amountUnit ?? null },
      asks: [...asks, ...unitAsked(unit ?? amountUnit)],
    };
  }
  const exact = alone.exec(said);
  if (exact) {
    const [, sign, value = '', unit] = exact;
    if (
      unit &&
      /^(?:st|nd|rd|th|am|pm|x|o'clock|January|February|March|April|May|June|July|August|September|October|November|December|Jan|Feb|Mar|Apr|Jun|Jul|Aug|Sept?|Oct|Nov|Dec)$/i.test(
        unit,
      )
    )
      return null;
    const read = oneNumber(value, asks);
    if (read === null) return null;
    return {
      value: { value: read, tolerance: { kind: 'absolute', amount: 0 }, unit: unit ?? sign ?? null },
      asks: [...asks, ...unitAsked(unit ?? sign)],
    };
  }
  const range = between.exec(said);
  if (range) {
    const from = oneNumber(range[1] as string, asks);
    const to = oneNumber(range[2] as string, asks);
    if (from === null || to === null || readValue(to) <= readValue(from)) return null;
    const [low, high] = [readValue(from), readValue(to)];
    const middle = Number(((low + high) / 2).toPrecision(12));
    const unit = range[3];
    // A hyphen between two numbers is as often a score, a date or a course.
    if (/\d\s?-\s?\d/.test(said)) asks.push(`“${tight(text)}” was read as everything from ${from} to ${to}.`);
    return {
      value: {
        value: String(middle),
        tolerance: { kind: 'absolute', amount: Number(((high - low) / 2).toPrecision(12)) },
        unit: unit ?? null,
      },
      asks: [...asks, ...unitAsked(unit)],
    };
  }
  return null;
}

const readValue = (text: string): number => {
  const read = readNumber(text);
  return read.ok ? read.value : 0;
};

const unitAsked = (unit: string | undefined): string[] =>
  unit === undefined || knownUnits.has(unit) ? [] : [`“${unit}” was read as the unit of the number.`];

/** One number as it is stored; what divides thousands is taken out and asked about. */
function oneNumber(text: string, asks: string[]): string | null {
  const said = tight(text);
  if (/^[+-]?\d{1,3},\d{3}$/.test(said)) {
    const whole = said.replace(',', '');
    asks.push(`“${said}” can be ${whole} or ${said.replace(',', '.')}: it was read as ${whole}.`);
    return whole;
  }
  const read = readNumber(said);
  if (read.ok) return said;
  if (read.why !== 'ambiguous') return null;
  if (
    /^[+-]?\d{1,3}(?:[ '’]\d{3})+(?:[.,]\d+)?$/u.test(said) ||
    /^[+-]?\d{1,3}(?:,\d{3})+(?:\.\d+)?$/.test(said) ||
    /^[+-]?\d{1,3}(?:\.\d{3})+(?:,\d+)?$/.test(said)
  ) {
    const last = Math.max(said.lastIndexOf('.'), said.lastIndexOf(','));
    const decimals = last >= 0 && said.length - last - 1 !== 3 ? said.slice(last + 1) : '';
    const whole = (decimals ? said.slice(0, last) : said).replace(/[^\d+-]/g, '');
    const value = decimals ? `${whole}.${decimals}` : whole;
    asks.push(`“${said}” was read as ${value}.`);
    return value;
  }
  return null;
}

/** What the code on a printed sheet says: whose installation, which layout, which copy, and which page of it. */
export type SheetCode = {
  /** The installation that printed it: {@link codeLengths.installation} signs. */
  installation: string;
  /** The layout that it was printed with: {@link codeLengths.layout} signs. */
  layout: string;
  /** Which sheet of this layout, from 1: of a sheet that is made out it names the student. */
  copy: number;
  /** Which page of the sheet, from 1. */
  page: number;
};

/** Signs that nobody mistakes for one another, all of which fit the short form of printed codes (ISO/IEC 18004, alphanumeric). */
const signs = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
/** How many signs installation and layout have. */
export const codeLengths = { installation: 5, layout: 7 } as const;
const copySigns = 4;
/** How many copies of one layout can be told apart. */
export const mostCopies = signs.length ** copySigns - 1;
const begin = 'W1';
/** A prime above the number of signs: any one sign misread and any two neighbours exchanged change the remainder. */
const prime = 953;

const digits = (value: number, count: number): string =>
  Array.from(
    { length: count },
    (_, i) => signs[Math.floor(value / signs.length ** (count - 1 - i)) % signs.length],
  ).join('');
const numberOf = (text: string): number => [...text].reduce((sum, sign) => sum * signs.length + signs.indexOf(sign), 0);
const checkOf = (text: string): string =>
  digits(
    [...text].reduce((rest, sign) => (rest * 37 + signs.indexOf(sign) + 1) % prime, 0),
    2,
  );

/**
 * The code as it is printed, with its check.
 *
 * @param code `copy` is from 1 to {@link mostCopies}, `page` from 1 to 961
 * @example sheetCodeText({ installation: 'AAAAA', layout: 'BBBBBBB', copy: 3, page: 1 }) // 'W1AAAAABBBBBBBAAADAB38'
 */
export function sheetCodeText({ installation, layout, copy, page }: SheetCode): string {
  const body = `${installation}${layout}${digits(copy, copySigns)}${digits(page, 2)}`;
  return `${begin}${body}${checkOf(body)}`;
}

/** Reads a code back; null where it is none of ours, or its check is wrong. */
export function readSheetCode(text: string): SheetCode | null {
  const { installation, layout } = codeLengths;
  const body = text.slice(begin.length, -2);
  if (!text.startsWith(begin) || body.length !== installation + layout + copySigns + 2) return null;
  if ([...body].some((sign) => !signs.includes(sign)) || checkOf(body) !== text.slice(-2)) return null;
  const copy = numberOf(body.slice(installation + layout, installation + layout + copySigns));
  const page = numberOf(body.slice(-2));
  if (copy < 1 || page < 1) return null;
  return {
    installation: body.slice(0, installation),
    layout: body.slice(installation, installation + layout),
    copy,
    page,
  };
}

/** The code in groups, to be read aloud or typed by a person. @example codeInGroups('W1AAAAABBB') // 'W1AAA-AABBB' */
export const codeInGroups = (text: string): string => text.match(/.{1,5}/g)?.join('-') ?? text;

/** A name of as many signs from chance, for an installation or a layout. */
export function codeName(length: number, below: (most: number) => number): string {
  return Array.from({ length }, () => signs[below(signs.length)]).join('');
}

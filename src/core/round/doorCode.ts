/**
 * The signs of a door code: letters and digits that nobody takes for one another, read from far or heard. Left out are 0 and
 * O, 1, I and L, 2 and Z, 5 and S, 8 and B, U and V, M and N, what rhymes with another (A with J and K, C, D, E, G and P with
 * T), and with the vowels nearly every word that nobody wants to see on a wall.
 */
export const doorSigns = 'FHJKQRTWXY34679';

/** So many signs make a code: 15⁶, more than 11 million codes. */
export const doorCodeLength = 6;

/**
 * A code from chance.
 *
 * @param below a whole number from 0 up to, and without, its argument
 * @returns six of {@link doorSigns}
 */
export const newDoorCode = (below: (count: number) => number): string =>
  Array.from({ length: doorCodeLength }, () => doorSigns[below(doorSigns.length)]).join('');

/** A code in two halves, as it is shown and said. @example doorCodeShown('KRT346') // 'KRT 346' */
export const doorCodeShown = (code: string): string => `${code.slice(0, 3)} ${code.slice(3)}`;

/**
 * A code as somebody typed it: in any case, with spaces, hyphens or dots where they like.
 *
 * @returns null where it cannot be a code
 * @example readDoorCode(' krt-346 ') // 'KRT346'
 */
export function readDoorCode(typed: string): string | null {
  const code = typed
    .slice(0, 40)
    .toUpperCase()
    .replace(/[\s.\-–—]/g, '');
  return code.length === doorCodeLength && [...code].every((sign) => doorSigns.includes(sign)) ? code : null;
}

/** The words by which letters are spelled aloud, those of the radiotelephony alphabet (ICAO Annex 10, ITU). */
const spelled: Readonly<Record<string, string>> = {
  F: 'Foxtrot',
  H: 'Hotel',
  J: 'Juliett',
  K: 'Kilo',
  Q: 'Quebec',
  R: 'Romeo',
  T: 'Tango',
  W: 'Whiskey',
  X: 'X-ray',
  Y: 'Yankee',
  '3': 'three',
  '4': 'four',
  '6': 'six',
  '7': 'seven',
  '9': 'nine',
};

/** A code as it is said aloud. @example doorCodeSpoken('KR3') // 'Kilo, Romeo, three' */
export const doorCodeSpoken = (code: string): string => [...code].map((sign) => spelled[sign] ?? sign).join(', ');

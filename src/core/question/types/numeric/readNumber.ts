/** A number as a person wrote it, or why it is not taken for one. */
export type ReadNumber =
  | { ok: true; value: number; readAs: string }
  | { ok: false; why: 'empty' | 'not-a-number' | 'ambiguous'; message: string };

const digits = '[0-9]+';
const decimal = `(?:${digits}(?:[.,]${digits})?|[.,]${digits})`;
const scientific = new RegExp(`^([+-]?)(${decimal})(?:e|[x*×·]10\\^?)([+-]?${digits})$`, 'i');
const plain = new RegExp(`^([+-]?)(${decimal})$`);
const fraction = new RegExp(`^([+-]?)(${digits})/(${digits})$`);
const mixed = new RegExp(`^([+-]?)(${digits}) (${digits})/(${digits})$`);

/**
 * Reads one number: integer, decimal with point or comma, fraction `3/4`, mixed number `1 3/4`, or scientific notation
 * (`1.2e-3`, `1.2×10^-3`). What can be understood in two ways is not guessed: `1.234,5` and `1,234,567` are refused.
 *
 * A raised digit is no number by itself: `10²` is neither 102 nor guessed to be 100.
 *
 * @example readNumber('1,5') // { ok: true, value: 1.5, readAs: '1.5' }
 */
export function readNumber(text: string): ReadNumber {
  const tidy = text
    .replace(/[\u00bc-\u00be\u2150-\u215e]/g, (sign) => ` ${sign.normalize('NFKD')}`)
    .replace(/[\uff10-\uff19]/g, (digit) => digit.normalize('NFKC'))
    .replace(/[\u2212\u2012\u2013]/g, '-')
    .replace(/\u2044/g, '/')
    .replace(/\s+/g, ' ')
    .replace(/ ?([/x*×·^]) ?/gi, '$1')
    .replace(/^([+-]) /, '$1')
    .trim();
  if (tidy === '') return { ok: false, why: 'empty', message: '' };
  if (tidy.length > 60) return notANumber;

  const parts = mixed.exec(tidy) ?? fraction.exec(tidy);
  if (parts) {
    const numbers = parts.slice(2).map(Number);
    const bottom = numbers.pop() as number;
    const top = numbers.pop() as number;
    if (bottom === 0) return { ok: false, why: 'not-a-number', message: 'A fraction cannot have 0 below the line.' };
    return read(parts[1], (numbers.pop() ?? 0) + top / bottom);
  }
  const simple = plain.exec(tidy);
  if (simple) return read(simple[1], Number((simple[2] as string).replace(',', '.')));
  const powered = scientific.exec(tidy);
  if (powered) return read(powered[1], Number(`${(powered[2] as string).replace(',', '.')}e${powered[3]}`));
  if (/^[+-]?[0-9][0-9.,' ]*$/.test(tidy))
    return {
      ok: false,
      why: 'ambiguous',
      message: 'This can be read in more than one way. Write it without spaces or separators between thousands.',
    };
  return notANumber;
}

const notANumber: ReadNumber = {
  ok: false,
  why: 'not-a-number',
  message: 'This is not read as a number. Examples: 12, 1.5, 3/4, 1 3/4, 2e3.',
};

function read(sign: string | undefined, size: number): ReadNumber {
  const value = sign === '-' ? -size : size;
  if (!Number.isFinite(value)) return { ok: false, why: 'not-a-number', message: 'This number is too large.' };
  return { ok: true, value, readAs: String(value) };
}

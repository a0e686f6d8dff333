const alphabet = 26;

/** A, B … Z, AA, AB …: the letters of the n-th label, from 0, in upper case. */
function letters(n: number): string {
  const last = String.fromCharCode(65 + (n % alphabet));
  return n < alphabet ? last : letters(Math.floor(n / alphabet) - 1) + last;
}

/**
 * The label of the choice at a place, from 0.
 *
 * @param labels a letter to begin with, in the case of all; `1` for numerals; `none` for no label; absent for A
 * @example choiceLabel('k', 2) // 'm'
 */
export function choiceLabel(labels: string | undefined, place: number): string {
  if (labels === 'none') return '';
  if (labels === '1') return String(place + 1);
  const first = labels ?? 'A';
  const upper = first.toUpperCase();
  const label = letters(upper.charCodeAt(0) - 65 + place);
  return first === upper ? label : label.toLowerCase();
}

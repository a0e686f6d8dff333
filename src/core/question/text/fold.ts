/** Which differences between two texts do not count. */
export type Folds = {
  /** Upper and lower case. */
  case: boolean;
  /** Accents and other marks on letters. */
  accents: boolean;
  /** Spaces and punctuation; signs such as + and ° still count. */
  spacing: boolean;
};

/** What is no letter, digit or symbol of ASCII: spaces, control signs, punctuation. */
const asciiSpacing = /[^$+0-9<=>A-Z^`a-z|~]/g;

/**
 * A text with the differences that do not count taken out: Unicode NFC, then the chosen folds. Spaces at the ends never
 * count.
 *
 * @example fold('  Émile-Zola ', { case: true, accents: true, spacing: true }) // 'emilezola'
 */
export function fold(text: string, folds: Folds): string {
  let folded = text.normalize('NFC').trim();
  // Plain ASCII, as most texts are, has neither accents nor letters whose upper case is another length.
  if (/^\p{ASCII}*$/u.test(folded)) {
    if (folds.case) folded = folded.toLowerCase();
    return folds.spacing ? folded.replace(asciiSpacing, '') : folded;
  }
  if (folds.case) folded = folded.toUpperCase().toLowerCase();
  if (folds.accents) folded = folded.normalize('NFD').replace(/\p{M}/gu, '').normalize('NFC');
  if (folds.spacing) folded = folded.replace(/[\s\p{P}\p{Z}\p{C}]/gu, '');
  return folded;
}

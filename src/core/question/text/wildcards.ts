import { type Folds, fold } from './fold';

type Piece = { kind: 'any-run' } | { kind: 'any-one' } | { kind: 'one'; char: string };

/** Splits a pattern: `*` stands for any run of characters, `?` for exactly one, a backslash makes the next one itself. */
function pieces(pattern: string, folds: Folds): Piece[] {
  const found: Piece[] = [];
  let literal = '';
  const flush = () => {
    const inner = literal;
    literal = '';
    // Ends are trimmed only at the ends of the whole pattern: a space beside a wildcard counts.
    const kept = folds.spacing ? fold(inner, folds) : fold(`.${inner}.`, folds).slice(1, -1);
    for (const char of kept) found.push({ kind: 'one', char });
  };
  const signs = [...pattern.normalize('NFC').trim()];
  for (let i = 0; i < signs.length; i++) {
    const sign = signs[i] as string;
    if (sign === '\\' && i + 1 < signs.length) literal += signs[++i];
    else if (sign === '*' || sign === '?') {
      flush();
      if (sign === '?') found.push({ kind: 'any-one' });
      else if (found[found.length - 1]?.kind !== 'any-run') found.push({ kind: 'any-run' });
    } else literal += sign;
  }
  flush();
  return found;
}

/**
 * Whether a text fits a pattern with wildcards, after the folds. Time grows with pattern × text at worst, never
 * exponentially.
 */
export function fitsPattern(pattern: string, text: string, folds: Folds): boolean {
  const wanted = pieces(pattern, folds);
  const given = [...fold(text, folds)];
  let p = 0;
  let t = 0;
  let star = -1;
  let mark = 0;
  while (t < given.length) {
    const piece = wanted[p];
    if (piece?.kind === 'any-run') {
      star = p++;
      mark = t;
    } else if (piece && (piece.kind === 'any-one' || piece.char === given[t])) {
      p++;
      t++;
    } else if (star >= 0) {
      p = star + 1;
      t = ++mark;
    } else return false;
  }
  while (wanted[p]?.kind === 'any-run') p++;
  return p === wanted.length;
}

/**
 * A text that the pattern is meant to fit: wildcards filled as shortly as they can be without leaving a space at an end,
 * where it would not count.
 */
export function exampleOf(pattern: string): string {
  const filled = (run: string) =>
    pattern.replace(/\\(.)|\*|\?/gsu, (sign, escaped: string | undefined) =>
      escaped !== undefined ? escaped : sign === '?' ? 'x' : run,
    );
  const shortest = filled('');
  return shortest === shortest.trim() ? shortest : filled('x');
}

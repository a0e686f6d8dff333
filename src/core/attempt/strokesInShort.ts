import type { Stroke } from './strokes';

/** A paper's strokes in short, for a table of hundreds: each part with a sign for each of its questions. */
export type StrokesInShort = readonly (readonly [partTitle: string, signs: string])[];

const signs = { right: 'r', partly: 'p', wrong: 'w' } as const;

/**
 * Strokes in short: `r`, `p`, `w` for right, partly right and wrong, `h` where a mark by hand is awaited, `a` for
 * answered, `b` for answered and `c` for empty to come back to, `.` for empty, `-` for empty where a mark is awaited all the same, as on paper.
 */
export function strokesInShort(strokes: readonly Stroke[]): StrokesInShort {
  const parts: [string, string][] = [];
  for (const stroke of strokes) {
    const sign = stroke.awaitsMark
      ? stroke.answered
        ? 'h'
        : '-'
      : stroke.outcome
        ? signs[stroke.outcome]
        : stroke.comeBack
          ? stroke.answered
            ? 'b'
            : 'c'
          : stroke.answered
            ? 'a'
            : '.';
    const last = parts.at(-1);
    if (last && last[0] === stroke.partTitle) last[1] += sign;
    else parts.push([stroke.partTitle, sign]);
  }
  return parts;
}

/** The reverse of {@link strokesInShort}. */
export function strokesAtLength(parts: StrokesInShort): Stroke[] {
  let number = 0;
  return parts.flatMap(([partTitle, all]) =>
    [...all].map((sign): Stroke => {
      number += 1;
      const outcome = sign === 'r' ? 'right' : sign === 'p' ? 'partly' : sign === 'w' ? 'wrong' : undefined;
      return {
        number,
        partTitle,
        answered: sign !== '.' && sign !== '-' && sign !== 'c',
        ...(sign === 'b' || sign === 'c' ? { comeBack: true } : {}),
        awaitsMark: sign === 'h' || sign === '-',
        ...(outcome ? { outcome } : {}),
      };
    }),
  );
}

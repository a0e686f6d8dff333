import type { QuestionSign } from './paperRuler';

/** A paper's signs in short, for a table of hundreds: each part with a sign for each of its questions. */
export type RulerInShort = readonly (readonly [partTitle: string, signs: string])[];

const letters = { right: 'r', partly: 'p', wrong: 'w' } as const;

/**
 * Signs in short: `r`, `p`, `w` for right, partly right and wrong, `h` where a mark by hand is awaited, `a` for
 * answered, `b` for answered and `c` for empty to come back to, `.` for empty, `-` for empty where a mark is awaited all the same, as on paper.
 */
export function rulerInShort(signs: readonly QuestionSign[]): RulerInShort {
  const parts: [string, string][] = [];
  for (const sign of signs) {
    const letter = sign.awaitsMark
      ? sign.answered
        ? 'h'
        : '-'
      : sign.outcome
        ? letters[sign.outcome]
        : sign.comeBack
          ? sign.answered
            ? 'b'
            : 'c'
          : sign.answered
            ? 'a'
            : '.';
    const last = parts.at(-1);
    if (last && last[0] === sign.partTitle) last[1] += letter;
    else parts.push([sign.partTitle, letter]);
  }
  return parts;
}

/** The reverse of {@link rulerInShort}. */
export function rulerAtLength(parts: RulerInShort): QuestionSign[] {
  let number = 0;
  return parts.flatMap(([partTitle, all]) =>
    [...all].map((sign): QuestionSign => {
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

/** What is known about one question of a paper, as the paper ruler shows it. */
export type Stroke = {
  /** Its number on the paper, from 1. */
  number: number;
  partTitle: string;
  answered: boolean;
  /** The student wants to come back to it. */
  comeBack?: boolean;
  current?: boolean;
  /** A mark by hand is awaited. */
  awaitsMark?: boolean;
  /** Only once it may be shown. */
  outcome?: 'right' | 'partly' | 'wrong';
};

/** A paper's strokes in short, for a table of hundreds: each part with a sign for each of its questions. */
export type StrokesInShort = readonly (readonly [partTitle: string, signs: string])[];

const signs = { right: 'r', partly: 'p', wrong: 'w' } as const;

/**
 * Strokes in short: `r`, `p`, `w` for right, partly right and wrong, `h` where a mark by hand is awaited, `a` for
 * answered, `.` for empty, `-` for empty where a mark is awaited all the same, as on paper.
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
        answered: sign !== '.' && sign !== '-',
        awaitsMark: sign === 'h' || sign === '-',
        ...(outcome ? { outcome } : {}),
      };
    }),
  );
}

/** The most questions a paper may have to be drawn as one ruler; a longer one is drawn by the page, or told in numbers. */
export const longestRuler = 120;

/** The stroke in words, for people who hear the ruler. */
export function strokeText(stroke: Stroke): string {
  const said = [stroke.answered ? 'answered' : 'empty'];
  if (stroke.comeBack) said.push('to come back to');
  if (stroke.awaitsMark) said.push('waits for a mark');
  if (stroke.outcome) said.push(stroke.outcome === 'partly' ? 'partly right' : stroke.outcome);
  if (stroke.current) said.push('here now');
  return `Question ${stroke.number}: ${said.join(', ')}`;
}

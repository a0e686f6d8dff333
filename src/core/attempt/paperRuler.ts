/** What is known about one question of a paper, as the paper ruler shows it. */
export type QuestionSign = {
  /** Its number on the paper, from 1. */
  number: number;
  partTitle: string;
  answered: boolean;
  /** The student wants to come back to it. */
  comeBack?: boolean;
  current?: boolean;
  /** Its instructor has corrected something about it. */
  corrected?: boolean;
  /** A mark by hand is awaited. */
  awaitsMark?: boolean;
  /** Only once it may be shown. */
  outcome?: 'right' | 'partly' | 'wrong';
};

/** The most questions a paper may have to be drawn as one ruler; a longer one is drawn by the page, or told in numbers. */
export const longestRuler = 120;

/** The sign in words, for people who hear the ruler. */
export function signText(sign: QuestionSign): string {
  const said = [sign.answered ? 'answered' : 'empty'];
  if (sign.comeBack) said.push('to come back to');
  if (sign.corrected) said.push('corrected');
  if (sign.awaitsMark) said.push('waits for a mark');
  if (sign.outcome) said.push(sign.outcome === 'partly' ? 'partly right' : sign.outcome);
  if (sign.current) said.push('here now');
  return `Question ${sign.number}: ${said.join(', ')}`;
}

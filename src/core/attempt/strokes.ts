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

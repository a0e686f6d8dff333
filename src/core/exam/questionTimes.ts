import { durationText, minute } from '../base/time';
import type { ExamDesign } from './design';

/**
 * What times of their own questions have, in a sentence for the student; empty where none has one.
 *
 * @param minutesPerQuestion the time for each question that has none of its own; null where there is none
 * @param extraPercent of the student, by which each is longer
 */
export function questionTimesSaid(design: ExamDesign, minutesPerQuestion: number | null, extraPercent: number): string {
  const lines = design.parts.flatMap((part) => part.lines);
  const own = lines.map((line) => line.minutes ?? minutesPerQuestion);
  const times = own.filter((one) => one !== null && one !== undefined);
  if (times.length === 0 || design.offScreen) return '';
  const said = (minutes: number) => durationText(minutes * minute * (1 + extraPercent / 100));
  const [least, most] = [Math.min(...times), Math.max(...times)];
  const howLong = least === most ? said(least) : `from ${said(least)} to ${said(most)}`;
  return times.length === own.length
    ? `Each question has a time of its own: ${howLong}. It begins when you open the question, and runs on if you go elsewhere.`
    : `Some questions have a time of their own: ${howLong}. It begins when you open the question, and runs on if you go elsewhere.`;
}

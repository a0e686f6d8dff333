import type { ReadLine } from './lineForms';

/**
 * The lines that stay behind when some of the questions read from a text are taken: those of the others, and all that were
 * not read; a list of keys as long as any question stays. Empty lines stay where they divide what stays.
 *
 * @param roles what each line was read as
 * @param taken whether each question was taken, in the order in which they were read
 * @returns places of lines from 0; none when everything was taken
 */
export function linesLeft(roles: readonly ReadLine[], taken: readonly boolean[]): number[] {
  const someStay = taken.includes(false);
  const stays = ({ role, item }: ReadLine): boolean => {
    if (role === 'nothing' || role === 'blank') return false;
    if (role === 'unread') return true;
    return item === null ? someStay : taken[item] === false;
  };
  const left: number[] = [];
  let gap: number | null = null;
  roles.forEach((line, i) => {
    if (line.role === 'blank') gap ??= i;
    else if (stays(line)) {
      if (gap !== null && left.length > 0) left.push(gap);
      gap = null;
      left.push(i);
    }
  });
  return left;
}

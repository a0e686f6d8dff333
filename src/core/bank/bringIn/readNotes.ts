import { difficulties } from '../../question/types';
import type { Brought } from './brought';

/** Reads what stands behind Points, Difficulty, Category, Tags, Objective and Name. */
export function readNotes(notes: Readonly<Record<string, string | undefined>>, brought: Brought): void {
  const problem = (message: string) => brought.problems.push({ severity: 'warning', message });
  brought.shortName = (notes.name ?? '').slice(0, 120);
  brought.category = notes.category ?? '';
  brought.tags = list(notes.tag);
  brought.objectives = list(notes.objective);
  const points = notes.point?.replace(',', '.');
  if (points) {
    const value = Number(points);
    if (value > 0 && value <= 1_000) brought.points = value;
    else problem(`“${points}” is no number of points; the usual points are taken.`);
  }
  const difficulty = notes.difficulty?.trim().toLowerCase();
  if (difficulty) {
    brought.difficulty = difficulties.find((one) => one === difficulty) ?? null;
    if (!brought.difficulty) problem(`“${difficulty}” is none of ${difficulties.join(', ')}; no difficulty is set.`);
  }
}

const list = (text: string | undefined) =>
  (text ?? '')
    .split(/[,;]/)
    .map((one) => one.trim())
    .filter(Boolean)
    .slice(0, 30);

import { type ExamDesign, examsDrawnFrom } from './design';
import { inPassagePool, inPool, type PoolEntry } from './snapshot';

/**
 * Entries that know which of the wanted exams can put them on a paper: as a fixed question, or through a draw, which may
 * itself draw from further exams. An exam that is met on its own way adds nothing a second time, so a ring ends too.
 *
 * @param designs the design of every exam there is, by id; one that is missing gives nothing
 */
export function withExamPools(
  entries: readonly PoolEntry[],
  designs: ReadonlyMap<string, ExamDesign>,
  wanted: Iterable<string>,
): PoolEntry[] {
  const held = new Map<string, Set<string>>();
  const holds = (examId: string, way: ReadonlySet<string>): Set<string> => {
    const known = held.get(examId);
    const design = designs.get(examId);
    if (known || !design || way.has(examId)) return known ?? new Set();
    const further = new Set(way).add(examId);
    const inner = new Map([...examsDrawnFrom(design)].map((id) => [id, holds(id, further)]));
    const questions = new Set<string>();
    for (const line of design.parts.flatMap((part) => part.lines)) {
      if (line.kind === 'fixed') {
        questions.add(line.questionId);
        continue;
      }
      const fits = line.kind === 'draw' ? inPool : inPassagePool;
      for (const entry of entries) {
        const exams = (line.pool.exams ?? []).filter((id) => inner.get(id)?.has(entry.questionId));
        if (fits({ ...entry, exams }, line.pool)) questions.add(entry.questionId);
      }
    }
    held.set(examId, questions);
    return questions;
  };
  const all = [...new Set(wanted)].map((id) => [id, holds(id, new Set())] as const);
  if (all.length === 0) return [...entries];
  return entries.map((entry) => ({
    ...entry,
    exams: all.flatMap(([id, questions]) => (questions.has(entry.questionId) ? [id] : [])),
  }));
}

/**
 * The way on which one exam draws from another, through others where need be; null where it does not. From an exam to
 * itself it is the ring that must not be.
 * Where a draws from b and b from a, the way from a to a is a, b, a.
 *
 * @example wayBetween('a', 'b', new Map()) // null
 */
export function wayBetween(from: string, to: string, designs: ReadonlyMap<string, ExamDesign>): string[] | null {
  const done = new Set<string>();
  const look = (at: string, way: string[]): string[] | null => {
    const design = designs.get(at);
    if (!design) return null;
    for (const next of examsDrawnFrom(design)) {
      if (next === to) return [...way, at, next];
      if (done.has(next)) continue;
      done.add(next);
      const found = look(next, [...way, at]);
      if (found) return found;
    }
    return null;
  };
  return look(from, []);
}

import type { Problem } from '@/core/base/result';

/** What went wrong as a whole; problems that belong to a field stand at the field instead. */
export function Problems({ problems, className = '' }: { problems: readonly Problem[]; className?: string }) {
  if (problems.length === 0) return null;
  return (
    <div role="alert" className={`rounded-sm border border-brick bg-brick-wash px-3 py-2 text-brick ${className}`}>
      {problems.map((problem) => (
        <p key={`${problem.field}${problem.message}`}>{problem.message}</p>
      ))}
    </div>
  );
}

/** The message for one field, if there is one. */
export const problemAt = (problems: readonly Problem[], field: string): string | null =>
  problems.find((problem) => problem.field === field)?.message ?? null;

/** The problems that no shown field carries. */
export const problemsBesides = (problems: readonly Problem[], shown: readonly string[]): Problem[] =>
  problems.filter((problem) => !problem.field || !shown.includes(problem.field));

/** A person's part in one course. */
export const roles = ['instructor', 'marker', 'student', 'guest'] as const;
/** What a person is in a course. */
export type Role = (typeof roles)[number];

/** Everything a person can do. A use-case names the one it is; nothing is allowed that is not listed here. */
export type Action =
  | 'course.see'
  | 'course.create'
  | 'people.see'
  | 'people.change'
  | 'bank.see'
  | 'bank.change'
  | 'exam.see'
  | 'exam.change'
  | 'exam.look'
  | 'sitting.see'
  | 'sitting.change'
  | 'sitting.invigilate'
  | 'sitting.take'
  | 'marking.mark'
  | 'marking.change'
  | 'results.see'
  | 'results.publish'
  | 'gradebook.see'
  | 'gradebook.change'
  | 'results.see-own';

type Rule = {
  roles: readonly Role[];
  /** The role holds only where the thing is given to the person: a marker's assignment, a student's own attempt. */
  onlyOwn?: readonly Role[];
  /** Whether it holds after somebody has left the course, too. */
  afterLeaving?: true;
};

/** The one policy table. A guest reads a course's exams and results without names. */
export const policy: Record<Action, Rule> = {
  'course.see': { roles: ['instructor', 'marker', 'student', 'guest'] },
  /** Asked of the course one already teaches: whoever teaches one may begin another. */
  'course.create': { roles: ['instructor'] },
  'people.see': { roles: ['instructor'] },
  'people.change': { roles: ['instructor'] },
  'bank.see': { roles: ['instructor'] },
  'bank.change': { roles: ['instructor'] },
  'exam.see': { roles: ['instructor', 'guest'] },
  'exam.change': { roles: ['instructor'] },
  /** A colleague looks through what an instructor asked them to look at, its key included. */
  'exam.look': { roles: ['instructor', 'marker', 'guest'], onlyOwn: ['marker', 'guest'] },
  'sitting.see': { roles: ['instructor', 'guest'] },
  'sitting.change': { roles: ['instructor'] },
  'sitting.invigilate': { roles: ['instructor'] },
  'sitting.take': { roles: ['student'], onlyOwn: ['student'] },
  'marking.mark': { roles: ['instructor', 'marker'], onlyOwn: ['marker'] },
  /** Adjusts marks, marks anew by a mended key, and sets how an exam is marked. */
  'marking.change': { roles: ['instructor'] },
  'results.see': { roles: ['instructor', 'guest'] },
  'results.publish': { roles: ['instructor'] },
  'gradebook.see': { roles: ['instructor'] },
  'gradebook.change': { roles: ['instructor'] },
  'results.see-own': { roles: ['student'], onlyOwn: ['student'], afterLeaving: true },
};

/**
 * Whether a role may do something.
 *
 * @param own whether the thing belongs to the person (their attempt, their marking); asked only where the table says so
 * @param hasLeft whether the person has left the course in which they had the role
 */
export function permits(action: Action, role: Role | null, own = false, hasLeft = false): boolean {
  if (role === null) return false;
  const rule = policy[action];
  if (hasLeft && !rule.afterLeaving) return false;
  if (!rule.roles.includes(role)) return false;
  return own || !rule.onlyOwn?.includes(role);
}

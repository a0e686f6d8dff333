import { describe, expect, it } from 'vitest';
import { type Action, permits, policy, type Role, roles } from './policy';

/** Who may do what, written out a second time on purpose: to change the policy is to change both. */
const everyone: Record<Action, string> = {
  'course.see': 'instructor marker student guest',
  'course.create': 'instructor',
  'people.see': 'instructor',
  'people.change': 'instructor',
  'bank.see': 'instructor',
  'bank.change': 'instructor',
  'exam.see': 'instructor guest',
  'exam.change': 'instructor',
  'exam.look': 'instructor own:marker own:guest',
  'sitting.see': 'instructor guest',
  'sitting.change': 'instructor',
  'sitting.invigilate': 'instructor',
  'sitting.take': 'own:student',
  'marking.mark': 'instructor own:marker',
  'marking.change': 'instructor',
  'results.see': 'instructor guest',
  'results.publish': 'instructor',
  'gradebook.see': 'instructor',
  'gradebook.change': 'instructor',
  'results.see-own': 'own:student',
};

describe('the policy', () => {
  it.each(Object.keys(policy) as Action[])('%s is for exactly those who are named', (action) => {
    const allowed = everyone[action].split(' ');
    for (const role of roles) {
      expect([role, permits(action, role, false)]).toEqual([role, allowed.includes(role)]);
      expect([role, permits(action, role, true)]).toEqual([
        role,
        allowed.includes(role) || allowed.includes(`own:${role}`),
      ]);
    }
  });

  it('allows nothing to someone who has no part in the course', () => {
    for (const action of Object.keys(policy) as Action[])
      expect(permits(action, null as Role | null, true)).toBe(false);
  });
});

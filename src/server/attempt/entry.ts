import { ok, type Result, refused } from '@/core/base/result';
import type { Arrangement, SittingRules } from '@/core/sitting/rules';
import type { Context } from '../house/context';
import { limitGuesses } from '../house/limitGuesses';
import { logRefusal } from '../house/refusals';

type Asked = { courseId: string; sittingId: string; rules: SittingRules; arrangement: Arrangement };

/** Wrong entry codes of one person for one sitting, within ten minutes. */
const codes = limitGuesses(10, 10 * 60_000);

/** The code this student has to type; empty where there is none. */
export const codeFor = ({ rules, arrangement }: Pick<Asked, 'rules' | 'arrangement'>): string =>
  arrangement.entryCode ?? rules.entryCode;

/** A code as it is compared: people type capitals and spaces as they come. */
const folded = (code: string): string => code.normalize('NFC').replace(/\s+/g, '').toUpperCase();

/** Whether the code that was typed lets its student in. After ten wrong ones they wait. */
export function mayEnterWith(context: Context, asked: Asked, typed: string): Result<null> {
  const code = codeFor(asked);
  if (code === '') return ok(null);
  const key = `${context.actor.userId}\n${asked.sittingId}`;
  const wait = codes.wait(key, context.now);
  if (wait === 0 && folded(typed) === folded(code)) {
    codes.forget(key);
    return ok(null);
  }
  logRefusal(context, { action: 'entry.code', courseId: asked.courseId, subjectId: asked.sittingId });
  if (wait > 0)
    return refused(
      'busy',
      `Too many wrong codes. Wait ${Math.ceil(wait / 60_000)} minutes, or ask your invigilator.`,
      'code',
    );
  return refused('not-allowed', typed.trim() === '' ? 'Type the entry code.' : 'This is not the entry code.', 'code');
}

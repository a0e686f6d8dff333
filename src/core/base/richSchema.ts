import { z } from 'zod';
import { type Rich, readRich } from './rich';

/** Rich content inside a Zod schema: read by the one definition in {@link readRich}. */
export const richSchema = z.unknown().transform((input, context): Rich => {
  const rich = readRich(input);
  if (rich) return rich;
  context.addIssue({ code: 'custom', message: 'This text holds something that cannot be kept here.' });
  return z.NEVER;
});

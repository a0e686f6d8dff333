import type { z } from 'zod';
import { ok, type Result } from './result';

/** Parses untrusted input by a schema; every issue becomes a problem at its field. */
export function parse<Schema extends z.ZodType>(schema: Schema, input: unknown): Result<z.output<Schema>> {
  const parsed = schema.safeParse(input);
  if (parsed.success) return ok(parsed.data);
  return {
    ok: false,
    problems: parsed.error.issues.map((issue) => ({
      code: 'bad-input',
      message: issue.message,
      field: issue.path.map(String).join('.'),
    })),
  };
}

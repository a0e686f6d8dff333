import { createHash } from 'node:crypto';
import { z } from 'zod';
import { type Result, refused } from '@/core/base/result';

/**
 * A staged change is looked at before it is made: a preview reads what was brought, says of every row what it would change
 * or why it cannot be taken, and names all that it would change by a fingerprint. The apply works the same out once more,
 * within its transaction, and goes on only under the same fingerprint; its row of the log says how to take it back
 * (`house/undoable.ts`). Rosters, scores, uploads of marks and re-markings go this way; questions that are brought in are
 * sent back as they were looked at, so that they need no fingerprint.
 *
 * @param changes all that would be changed, and what it would be changed from; JSON
 */
export const fingerprint = (changes: unknown): string =>
  createHash('sha256').update(JSON.stringify(changes)).digest('base64url');

/** The fingerprint of a preview, as a browser sends it back. */
export const previewKey = z.string().max(200);

/**
 * Refuses to make another change than was looked at.
 *
 * @param what may have changed in between, as the beginning of a sentence
 */
export const unlessAsSeen = (seen: string, now: string, what: string): Result<never> | null =>
  seen === now ? null : refused('conflict', `${what} changed since you looked at this. Look at it once more.`);

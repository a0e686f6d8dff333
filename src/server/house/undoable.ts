import type { Result } from '@/core/base/result';
import type { Action } from '@/core/people/policy';
import type { Tx } from '@/db/client';
import type { Context } from './context';

/** One kind of change that can be taken back: defined where the change is made, and named in its line of the log. */
export type Undoable<Kept extends object> = {
  kind: string;
  /** Whether it stands in the list of what was done lately; writing one thing does not, which would fill it. */
  isListed: boolean;
  /** What its undoer has to be allowed. */
  action: Action;
  /** What was done, in words, from what its line in the log keeps. */
  says(kept: Kept, detail: Readonly<Record<string, unknown>>): string;
  /** What has happened since that keeps it from being taken back, in words; null where nothing has. */
  hindered(tx: Tx, kept: Kept): string | null;
  /** Takes it back. @returns what of it could be, in words, where that may not be all; a refusal takes nothing back */
  apply(tx: Tx, context: Context, kept: Kept): Result<string> | undefined;
  /** What the line in the log keeps of a change, so that it can be taken back. */
  of(kept: Kept): Record<string, unknown>;
};

/** Defines a kind of change that can be taken back. */
export const undoable = <Kept extends object>(
  kind: string,
  definition: {
    action: Action;
    says(kept: Kept, detail: Readonly<Record<string, unknown>>): string;
    isListed?: boolean;
    hindered?(tx: Tx, kept: Kept): string | null;
    // biome-ignore lint/suspicious/noConfusingVoidType: most changes go back wholly and have nothing to say
    apply(tx: Tx, context: Context, kept: Kept): Result<string> | void;
  },
): Undoable<Kept> => ({
  hindered: () => null,
  isListed: true,
  ...definition,
  apply: (tx, context, kept) => definition.apply(tx, context, kept) ?? undefined,
  kind,
  of: (kept) => ({ kind, ...kept }),
});

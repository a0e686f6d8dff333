import type { Context } from '../house/context';

type Step = (context: Context, sittingId: string) => void;

const steps: Step[] = [];

/**
 * Names what a later stage does as soon as an attempt has been handed in and that is stored. Its stage registers it; a step
 * that fails takes nothing back.
 */
export const uponHandIn = (step: Step): void => {
  steps.push(step);
};

/** What is done upon a hand-in, by whoever has asked for it. */
export const afterHandIn = (context: Context, sittingId: string): void => {
  for (const step of steps) step(context, sittingId);
};

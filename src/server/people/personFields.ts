import { z } from 'zod';
import { isTimeZone, zoneProblem } from '@/core/base/time';
import { tidySignInName } from '@/core/people/names';

/** A name as it is said. */
export const nameInput = z.string().trim().min(1, 'The name is missing.').max(120);

/** The part of it by which somebody is sorted; empty where it is the last word. */
export const lastNameInput = z.string().trim().max(120);

/** An email in small letters; empty where somebody has none. */
export const emailInput = z
  .string()
  .trim()
  .toLowerCase()
  .pipe(z.union([z.literal(''), z.email('This is not an email address.')], { error: 'This is not an email address.' }))
  .pipe(z.string().max(200));

/** What somebody types to sign in, without an email: letters, digits and what joins them. */
export const signInNameInput = z
  .string()
  .overwrite(tidySignInName)
  .max(60)
  .regex(/^[\p{L}\p{N}][\p{L}\p{N}._ -]*$/u, 'Letters, digits, dots and hyphens only.');

/** The same as somebody chooses it: it begins with a letter, so that it is no number. */
export const chosenNameInput = signInNameInput
  .pipe(z.string().min(3, 'At least 3 characters.'))
  .pipe(z.string().regex(/^\p{L}/u, 'It begins with a letter.'));

/** A time zone of the IANA database; where only its place is named, it is said which one may be meant. */
export const timeZoneInput = z.string().refine(isTimeZone, { error: (issue) => zoneProblem(String(issue.input)) });

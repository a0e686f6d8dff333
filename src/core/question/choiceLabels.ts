import { z } from 'zod';

/** How the choices of a question are labelled: letters from any letter on, in its case; numerals; or nothing. */
export const choiceLabels = z.string().regex(/^([A-Za-z]|1|none)$/, 'A letter to begin with, numerals, or none.');

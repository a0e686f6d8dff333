import type { z } from 'zod';
import type { AcceptedText, MatchingRule } from './acceptedText';
import { matchText } from './matchText';
import { exampleOf } from './wildcards';

/** Reports accepted answers of which none can earn full credit, or which not even their own text would match. */
export function checkAcceptedTexts(
  accepted: readonly AcceptedText[],
  rule: MatchingRule,
  context: z.RefinementCtx,
  path: (string | number)[],
): void {
  accepted.forEach((one, i) => {
    if (!matchText([one], rule, rule.wildcards ? exampleOf(one.text) : one.text))
      context.addIssue({
        code: 'custom',
        path: [...path, i, 'text'],
        message: rule.wildcards
          ? 'Besides wildcards the answer needs letters or digits.'
          : 'Nothing is left of this answer when spaces and punctuation do not count.',
      });
  });
  if (accepted.length > 0 && !accepted.some((one) => one.credit === 1))
    context.addIssue({ code: 'custom', path, message: 'One answer must earn full credit.' });
}

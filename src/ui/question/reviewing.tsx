import { Check, X } from 'lucide-react';
import { pointsText } from '@/core/base/rounding';
import type { Presentation } from '@/core/question/presentation';

/** What the review of a type takes. Without a response it shows the key alone. */
export type ReviewProps<Content, Response> = { content: Content; presentation: Presentation; response?: Response };

/** What an answer earned of the points, where neither "right" nor "wrong" says it; in [0, 1]. */
export const creditSaid = (credit: number | undefined): string | undefined =>
  credit !== undefined && credit > 0 && credit < 1 ? `${pointsText(credit * 100)} % of the points` : undefined;

/** "right" or "wrong" in sign and word. */
export const Verdict = ({ right, text }: { right: boolean; text?: string }) => (
  <span className={`inline-flex shrink-0 items-center gap-1 text-sm ${right ? 'text-pine' : 'text-brick'}`}>
    {right ? <Check size={15} aria-hidden="true" /> : <X size={15} aria-hidden="true" />}
    {text ?? (right ? 'right' : 'wrong')}
  </span>
);

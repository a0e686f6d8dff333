import type { DateContent } from '@/core/question/types/date/content';
import type { DateResponse } from '@/core/question/types/date/student';
import type { ReviewProps } from '../reviewing';
import { dateSaid } from './dateSaid';

export const DateReview = ({ response }: ReviewProps<DateContent, DateResponse>) => (
  <p className="px-2 text-ink-2">
    {response ? <span className="text-ink">{dateSaid(response.date)}</span> : 'A date; there is no right answer.'}
  </p>
);

import { pointsText } from '@/core/base/rounding';
import { matchText } from '@/core/question/text/matchText';
import type { ShortTextContent } from '@/core/question/types/short-text/content';
import type { ShortTextResponse } from '@/core/question/types/short-text/student';
import { RichText } from '../../kit/RichText';
import { creditSaid, type ReviewProps, Verdict } from '../reviewing';

export function ShortTextReview({ content, response }: ReviewProps<ShortTextContent, ShortTextResponse>) {
  const match = response ? matchText(content.accepted, content.matching, response.text) : null;
  return (
    <div className="space-y-1 px-2">
      {response && (
        <p>
          <q>{response.text}</q>{' '}
          {content.accepted.length > 0 && <Verdict right={(match?.credit ?? 0) > 0} text={creditSaid(match?.credit)} />}
        </p>
      )}
      {content.accepted.length === 0 ? (
        <p className="text-ink-2">Marked by hand.</p>
      ) : (
        <ul>
          {content.accepted.map((one) => (
            <li
              key={`${one.text}/${one.credit}`}
              className={one.credit > 0 ? 'bg-pine-wash px-2 py-0.5' : 'px-2 py-0.5'}
            >
              {one.credit > 0 ? 'Accepted' : 'Foreseen'}: <strong>{one.text}</strong>
              {one.credit < 1 && ` for ${pointsText(one.credit * 100)} % of the points`}
              {one.feedback && <RichText rich={one.feedback} className="text-sm text-ink-2" />}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

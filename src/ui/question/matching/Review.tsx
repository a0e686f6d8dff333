import { type MatchingContent, sameText } from '@/core/question/types/matching/content';
import { textsPut } from '@/core/question/types/matching/score';
import type { MatchingResponse } from '@/core/question/types/matching/student';
import { RichText } from '../../kit/RichText';
import { type ReviewProps, Verdict } from '../reviewing';

export function MatchingReview({ content, presentation, response }: ReviewProps<MatchingContent, MatchingResponse>) {
  const put = response ? textsPut(presentation, response) : null;
  return (
    <>
      <ul className="border-y border-line">
        {content.pairs.map((pair) => {
          const given = put?.get(pair.id);
          const right = sameText(given ?? '') === sameText(pair.answer);
          return (
            <li key={pair.id} className="grid grid-cols-2 gap-3 border-b border-line px-2 py-1 last:border-b-0">
              <RichText rich={pair.prompt} />
              <div>
                <span className="bg-pine-wash px-1.5">{pair.answer}</span>
                {put && (
                  <span className="ml-2">
                    {!right && <span className="mr-2 text-brick">{given ?? 'nothing put'}</span>}
                    <Verdict right={right} />
                  </span>
                )}
              </div>
            </li>
          );
        })}
      </ul>
      <p className="mt-1 px-2 text-sm text-ink-2">
        {content.rule === 'share' ? 'Share of pairs right' : 'All or nothing'}
        {content.extras.length > 0 && `; extra options: ${content.extras.join(', ')}`}
      </p>
    </>
  );
}

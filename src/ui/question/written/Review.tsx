import { isEmptyRich } from '@/core/base/rich';
import type { WrittenContent } from '@/core/question/types/written/content';
import type { WrittenText } from '@/core/question/types/written/student';
import { RichText } from '../../kit/RichText';
import type { ReviewProps } from '../reviewing';
import { RubricTable } from './RubricTable';

/** The answer, the model answer and the rubric. For those who may see them. */
export function WrittenReview({ content, response }: ReviewProps<WrittenContent, WrittenText>) {
  return (
    <div className="space-y-2">
      {response &&
        (response.rich ? (
          <RichText rich={response.rich} />
        ) : (
          <p className="whitespace-pre-wrap px-2">{response.text}</p>
        ))}
      {isEmptyRich(content.modelAnswer) ? (
        <p className="px-2 text-ink-2">Marked by hand; no model answer yet.</p>
      ) : (
        <div className="bg-pine-wash px-2 py-1">
          <p className="text-sm text-pine">Model answer</p>
          <RichText rich={content.modelAnswer} />
        </div>
      )}
      {content.rubric && <RubricTable rubric={content.rubric} />}
    </div>
  );
}

import { isEmptyRich } from '@/core/base/rich';
import type { WrittenContent } from '@/core/question/types/written/content';
import { RichText } from '../../kit/RichText';

/** The model answer. For those who may see it. */
export function WrittenReview({ content }: { content: WrittenContent }) {
  if (isEmptyRich(content.modelAnswer)) return <p className="px-2 text-ink-2">Marked by hand; no model answer yet.</p>;
  return (
    <div className="bg-pine-wash px-2 py-1">
      <p className="text-sm text-pine">Model answer</p>
      <RichText rich={content.modelAnswer} />
    </div>
  );
}

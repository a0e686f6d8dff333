import type { ReactNode } from 'react';
import { isEmptyRich } from '@/core/base/rich';
import type { MarkingPage, QuestionToMark } from '@/server/marking/answersToMark';
import { Sheet } from '../kit/Page';
import { PaperDocument } from '../kit/PaperDocument';
import { RichText } from '../kit/RichText';

/** The question beside its answers: what was asked, what it belongs to, and what a full answer holds. */
export function QuestionBeside({
  question,
  document,
  children,
}: {
  question: QuestionToMark;
  document: MarkingPage['document'];
  children?: ReactNode;
}) {
  return (
    <aside className="space-y-4 lg:sticky lg:top-3">
      <Sheet label="Question" className="px-5 py-3">
        <h2 className="mb-1 font-sans text-sm font-medium text-ink-2">The question</h2>
        <RichText rich={question.stem} className="text-lg" />
      </Sheet>
      {document && <PaperDocument {...document} />}
      {question.passage && (
        <Sheet label="Passage" className="px-5 py-3">
          <details>
            <summary className="text-sm font-medium text-prussian">The passage it belongs to</summary>
            <RichText rich={question.passage} className="mt-2 max-h-80 overflow-y-auto" />
          </details>
        </Sheet>
      )}
      {!isEmptyRich(question.modelAnswer) && (
        <Sheet label="Model answer" className="px-5 py-3">
          <h2 className="mb-1 font-sans text-sm font-medium text-pine">Model answer</h2>
          <RichText rich={question.modelAnswer} />
        </Sheet>
      )}
      {children}
    </aside>
  );
}

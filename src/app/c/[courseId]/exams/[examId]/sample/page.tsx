import type { Metadata } from 'next';
import Link from 'next/link';
import { pointsText } from '@/core/base/rounding';
import { openExam } from '@/server/exam/exams';
import { samplePaper } from '@/server/exam/samplePaper';
import { ButtonLink } from '@/ui/kit/Button';
import { PageTitle, Sheet } from '@/ui/kit/Page';
import { PaperRuler } from '@/ui/kit/PaperRuler';
import { Problems } from '@/ui/kit/Problems';
import { RichText } from '@/ui/kit/RichText';
import { QuestionReview } from '@/ui/question/QuestionReview';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Sample paper' };

type Search = { paper?: string };

export default async function SamplePage({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; examId: string }>;
  searchParams: Promise<Search>;
}) {
  const { courseId, examId } = await params;
  const context = await pageContext();
  const exam = orNotFound(openExam(context, courseId, examId));
  const paper = Math.min(9_999, Math.max(1, Math.trunc(Number((await searchParams).paper)) || 1));
  const sample = samplePaper(context, courseId, examId, String(paper));
  const slots = sample.ok ? sample.value : [];
  const base = `/c/${courseId}/exams/${examId}`;
  return (
    <div className="max-w-[1000px]">
      <PageTitle
        title={`Sample paper ${paper}`}
        note={
          <Link href={base} className="text-prussian underline">
            {exam.title}
          </Link>
        }
      >
        {paper > 1 && <ButtonLink href={`${base}/sample?paper=${paper - 1}`}>The one before</ButtonLink>}
        <ButtonLink download href={`${base}/sample/pdf?paper=${paper}`}>
          Print
        </ButtonLink>
        <ButtonLink download href={`${base}/sample/pdf?paper=${paper}&key=yes`}>
          Print with key
        </ButtonLink>
        <ButtonLink href={`${base}/sample?paper=${paper + 1}`} look="main">
          Another
        </ButtonLink>
      </PageTitle>
      {!sample.ok && <Problems problems={sample.problems} />}
      <PaperRuler
        label="This paper"
        strokes={slots.map((slot) => ({ number: slot.number, partTitle: slot.partTitle, answered: false }))}
      />
      <ol className="mt-4 space-y-3">
        {slots.map((slot, i) => (
          <li key={slot.number}>
            {slot.partTitle !== slots[i - 1]?.partTitle && <h2 className="mt-6 mb-2 text-xl">{slot.partTitle}</h2>}
            {slot.passage && (
              <Sheet className="mb-3 px-5 py-3" label="Passage">
                <RichText rich={slot.passage} />
              </Sheet>
            )}
            <Sheet className="px-5 py-3">
              <p className="mb-1 flex justify-between gap-4 text-sm text-ink-2">
                <span>
                  {slot.number} · {slot.from}
                </span>
                <span>{pointsText(slot.points)} p</span>
              </p>
              <QuestionReview content={slot.content} presentation={slot.presentation} />
            </Sheet>
          </li>
        ))}
      </ol>
    </div>
  );
}

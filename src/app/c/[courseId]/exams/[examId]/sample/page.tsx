import { orNotFound, page } from '@/app/pages';
import { samplePaper } from '@/server/exam/samplePaper';
import { seeCourse } from '@/server/people/courses';
import { PaperReading } from '@/ui/exam/PaperReading';
import { ButtonLink } from '@/ui/kit/Button';
import { PageFrame, PageTitle } from '@/ui/kit/Page';
import { Problems } from '@/ui/kit/Problems';

export const metadata = { title: 'Sample paper' };

export default page<'courseId' | 'examId'>((context, { courseId, examId }, asked) => {
  const paper = Math.min(9_999, Math.max(1, Math.trunc(Number(asked.paper)) || 1));
  const sample = samplePaper(context, courseId, examId, String(paper));
  if (!sample.ok && sample.problems[0]?.code !== 'conflict') orNotFound(sample);
  const slots = sample.ok ? sample.value.slots : [];
  const base = `/c/${courseId}/exams/${examId}`;
  const { role } = orNotFound(seeCourse(context, courseId));
  return (
    <PageFrame width="sheet">
      <PageTitle
        title={`Sample paper ${paper}`}
        back={{
          href: role === 'instructor' ? base : `${base}/look`,
          name: sample.ok ? sample.value.title : 'The plan',
        }}
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
      <PaperReading slots={slots} />
    </PageFrame>
  );
});

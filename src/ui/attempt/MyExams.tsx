import Link from 'next/link';
import { durationText, type Instant, momentText } from '@/core/base/time';
import type { MyExam } from '@/server/attempt/myExams';
import { ButtonLink } from '../kit/Button';
import { Empty, State } from '../kit/Page';

const groups = [
  { key: 'now', name: 'Now' },
  { key: 'coming', name: 'Coming' },
  { key: 'done', name: 'Done' },
] as const;

/** All exams of a student, in the order in which they matter. */
export function MyExams({ exams }: { exams: MyExam[] }) {
  if (exams.length === 0)
    return (
      <>
        <h1 className="mb-4 text-2xl">My exams</h1>
        <Empty title="No exams yet">
          As soon as an instructor gives you one, it stands here with its day and its rules.
        </Empty>
      </>
    );
  return (
    <>
      <h1 className="mb-4 text-2xl">My exams</h1>
      {groups.map(({ key, name }) => {
        const own = exams.filter((exam) => exam.group === key);
        if (own.length === 0) return null;
        return (
          <section key={key} className="mb-7" aria-label={name}>
            <h2 className="mb-2 text-lg">
              {name} <span className="font-sans text-base font-normal text-ink-2">{own.length}</span>
            </h2>
            <ul className="border border-line bg-sheet">
              {own.map((exam) => (
                <ExamRow key={exam.sittingId} exam={exam} />
              ))}
            </ul>
          </section>
        );
      })}
    </>
  );
}

function ExamRow({ exam }: { exam: MyExam }) {
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 border-b border-line px-4 py-3 last:border-b-0">
      <div className="min-w-0 flex-1 basis-72">
        <h3 className="text-lg">{exam.title}</h3>
        <p className="text-ink-2">{exam.courseName}</p>
        <p className="mt-1">{whenSentence(exam)}</p>
        <p className="text-ink-2">{howSentence(exam)}</p>
      </div>
      <div className="text-right">{action(exam)}</div>
    </li>
  );
}

function action(exam: MyExam) {
  if (exam.runningAttemptId)
    return (
      <ButtonLink href={`/take/${exam.runningAttemptId}`} look="main">
        Go on
        <span className="sr-only"> with {exam.title}</span>
      </ButtonLink>
    );
  if (exam.group === 'now')
    return (
      <ButtonLink href={`/my/exams/${exam.sittingId}`} look="main">
        {exam.attemptsUsed > 0 ? 'Next attempt' : 'Rules and start'}
        <span className="sr-only"> of {exam.title}</span>
      </ButtonLink>
    );
  if (exam.group === 'coming') return <State ink="waits">{exam.refusal}</State>;
  return (
    <span className="text-base">
      {exam.resultPublished ? (
        <Link href="/my/results" className="text-prussian underline">
          See your result
          <span className="sr-only"> of {exam.title}</span>
        </Link>
      ) : exam.lastAttemptId ? (
        <>
          <State ink="done">Handed in</State> ·{' '}
          <Link href={`/my/receipts/${exam.lastAttemptId}`} className="text-prussian underline">
            receipt
            <span className="sr-only"> of {exam.title}</span>
          </Link>
        </>
      ) : (
        <State ink="plain">{exam.refusal}</State>
      )}
    </span>
  );
}

function whenSentence(exam: MyExam): string {
  const at = (moment: Instant) => momentText(moment, exam.timeZone);
  const said: string[] = [];
  if (exam.group === 'coming' && exam.opens !== null) said.push(`Opens ${at(exam.opens)}`);
  if (exam.due !== null && exam.due !== exam.closes && !exam.isClosed) said.push(`late after ${at(exam.due)}`);
  if (exam.closes !== null) said.push(`${exam.isClosed ? 'closed' : 'closes'} ${at(exam.closes)}`);
  if (said.length === 0) return 'Stays open';
  const sentence = said.join(', ');
  return `${sentence[0]?.toUpperCase()}${sentence.slice(1)} (${exam.timeZone})`;
}

function howSentence(exam: MyExam): string {
  const limit =
    exam.limit === null
      ? 'no time limit'
      : `${durationText(exam.limit)}${exam.extraTime ? ' with your extra time' : ''}`;
  if (exam.attemptsAllowed === null) return `${limit} · as many attempts as you like, ${exam.countsSentence}`;
  const left = exam.attemptsAllowed - exam.attemptsUsed;
  const attempts =
    exam.attemptsAllowed === 1
      ? 'one attempt'
      : `${left} of ${exam.attemptsAllowed} attempts left, ${exam.countsSentence}`;
  return `${limit} · ${attempts}`;
}

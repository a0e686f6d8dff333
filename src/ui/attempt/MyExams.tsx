import { Fragment } from 'react';
import { standingSaid } from '@/core/attempt/standing';
import { inZone, momentText } from '@/core/base/time';
import { counted, pointsSaid } from '@/core/base/words';
import type { MyExam } from '@/server/desk/myExams';
import type { StudentLine } from '@/server/desk/term';
import type { NewResult } from '@/server/release/resultsSeen';
import { ButtonLink } from '../kit/Button';
import { FileLink } from '../kit/FileLink';
import { Link } from '../kit/Link';
import { MyClockLine } from '../kit/MyClockLine';
import { OwnTime } from '../kit/OwnTime';
import { Empty, State } from '../kit/Page';
import { TermLine } from '../kit/TermLine';
import { TextLink } from '../kit/TextLink';

const groups = [
  { key: 'now', name: 'Now' },
  { key: 'coming', name: 'Coming' },
  { key: 'done', name: 'Done' },
] as const;

const tryOut = <TextLink href="/try-out">Try a question of each type</TextLink>;

/** All exams of a student, in the order in which they matter. */
export function MyExams({
  exams,
  news,
  line,
}: {
  exams: MyExam[];
  news: readonly NewResult[];
  /** All of it on one line; null where nothing has a date. */
  line: StudentLine | null;
}) {
  return (
    <>
      <div className="mb-4 flex flex-wrap items-baseline justify-between gap-x-4">
        <h1 className="text-2xl">My exams</h1>
        <span className="flex flex-wrap gap-x-5">
          {tryOut}
          {exams.length > 0 && (
            <FileLink href="/my/calendar" download>
              Into my calendar
            </FileLink>
          )}
        </span>
      </div>
      {exams.length === 0 && (
        <Empty title="No exams yet">
          As soon as an instructor gives you one, it stands here with its day and its rules.
        </Empty>
      )}
      {groups.map(({ key, name }) => {
        const own = exams.filter((exam) => exam.group === key);
        // What can be done now comes first; what is new, and all of it on one line, follow it.
        const between = key === 'coming' && (
          <>
            {news.length > 0 && <News news={news} />}
            {line && <OnOneLine {...line} />}
          </>
        );
        if (own.length === 0) return between && <Fragment key={key}>{between}</Fragment>;
        return (
          <Fragment key={key}>
            {between}
            <section className="mb-7" aria-label={name}>
              <h2 className="mb-2 text-lg">
                {name} <span className="font-sans text-base font-normal text-ink-2">{own.length}</span>
              </h2>
              {key === 'coming' ? byDay(exams, own) : <Rows exams={own} />}
            </section>
          </Fragment>
        );
      })}
    </>
  );
}

/** Everything with a date on one line, and the days on which there is more than one exam. */
const OnOneLine = ({ line, zone, now, together }: StudentLine) => (
  <>
    {line.bars.length > 0 && <TermLine line={line} zone={zone} now={now} base="/my/exams" />}
    {together.map(({ day, titles }) => (
      <p key={day} className="mb-3 border-l-2 border-saffron pl-3 text-saffron">
        {counted(titles.length, 'exam')} on {day}: {titles.join(', ')}.
      </p>
    ))}
  </>
);

/** Results, and answers about them, that were put in front of the student since they last looked. */
const News = ({ news }: { news: readonly NewResult[] }) => (
  <section className="mb-7" aria-label="New">
    <h2 className="mb-2 text-lg">
      New <span className="font-sans text-base font-normal text-ink-2">{news.length}</span>
    </h2>
    <ul className="border border-line bg-sheet">
      {news.map((one) => (
        <li key={one.sittingId} className="border-b border-line last:border-b-0">
          <Link href={`/my/results/${one.sittingId}`} className="block px-4 py-2.5 hover:bg-prussian-wash">
            <span className="font-medium text-prussian">
              {one.what === 'result' ? 'Your result of' : 'An answer to your reply:'} {one.title}
            </span>
            <span className="block text-sm text-ink-2">{momentText(one.at, one.timeZone)}</span>
          </Link>
        </li>
      ))}
    </ul>
  </section>
);

const Rows = ({ exams }: { exams: MyExam[] }) => (
  <ul className="border border-line bg-sheet">
    {exams.map((exam) => (
      <ExamRow key={exam.sittingId} exam={exam} />
    ))}
  </ul>
);

const dayOf = (exam: MyExam): string => {
  const at = exam.startsAt ?? exam.times.opens;
  return at === null ? '' : inZone(at, exam.timeZone, 'EEEE d MMMM');
};

/** What is coming, by days: several exams of one day stand together, with what of that day is done already. */
function byDay(all: MyExam[], coming: MyExam[]) {
  return [...new Set(coming.map(dayOf))].map((day) => {
    const own = coming.filter((exam) => dayOf(exam) === day);
    const done = day === '' ? [] : all.filter((exam) => exam.group === 'done' && dayOf(exam) === day);
    return (
      <div key={day} className="mb-3">
        {own.length + done.length > 1 && day !== '' && (
          <h3 className="mb-1 font-sans text-base font-medium">
            {day}: {counted(own.length + done.length, 'exam')}
            {done.length > 0 && (
              <span className="font-normal text-ink-2">
                , done already: {done.map((exam) => exam.title).join(', ')}
              </span>
            )}
          </h3>
        )}
        <Rows exams={own} />
      </div>
    );
  });
}

function ExamRow({ exam }: { exam: MyExam }) {
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 border-b border-line px-4 py-3 last:border-b-0">
      <div className="min-w-0 flex-1 basis-72">
        <h3 className="text-lg">{exam.title}</h3>
        <p className="text-ink-2">{exam.courseName}</p>
        <p className="mt-1">
          <MyClockLine times={exam.times} state={exam.clock} zone={exam.timeZone} now={exam.now} />
        </p>
        <p className="text-ink-2">{howSentence(exam)}</p>
        {exam.attempt?.aside && <p className="text-saffron">{exam.attempt.aside}</p>}
        {exam.group !== 'done' && <p className="text-ink-2">{exam.afterwards}</p>}
      </div>
      <div className="sm:max-w-64 sm:text-right">{action(exam)}</div>
    </li>
  );
}

function action(exam: MyExam) {
  if (exam.runningAttemptId)
    return (
      <span>
        {exam.attempt?.standing.kind === 'running' && exam.attempt.standing.reopened && (
          <span className="mr-2 font-medium text-saffron">Opened again</span>
        )}
        <ButtonLink href={`/take/${exam.runningAttemptId}`} look="main">
          {exam.attempt?.standing.kind === 'grace' ? 'To the hand-in' : 'Go on'}
          <span className="sr-only"> with {exam.title}</span>
        </ButtonLink>
      </span>
    );
  if (exam.door !== null)
    return (
      <ButtonLink href={`/in?code=${exam.door}`} look="main">
        Come in<span className="sr-only"> to {exam.title}</span>
      </ButtonLink>
    );
  if (exam.group === 'now')
    return (
      <ButtonLink href={`/my/exams/${exam.sittingId}`} look="main">
        {exam.attemptsUsed > 0 ? 'Next attempt' : 'Rules and start'}
        <span className="sr-only"> of {exam.title}</span>
      </ButtonLink>
    );
  if (exam.group === 'coming')
    return (
      <span>
        <span className="font-medium text-saffron">{exam.refusal}</span>
        {exam.startsAt !== null && (
          <span className="block text-sm">
            <OwnTime at={exam.startsAt} zone={exam.timeZone} />
          </span>
        )}
        <TextLink href={`/my/exams/${exam.sittingId}`} className="block text-base">
          Its rules
          <span className="sr-only"> of {exam.title}</span>
        </TextLink>
      </span>
    );
  return (
    <span className="text-base">
      {exam.resultPublished ? (
        <TextLink href={`/my/results/${exam.sittingId}`}>
          See your result
          <span className="sr-only"> of {exam.title}</span>
        </TextLink>
      ) : exam.attempt ? (
        <HowItStands exam={exam} attempt={exam.attempt} />
      ) : (
        <State ink="plain">{exam.refusal}</State>
      )}
    </span>
  );
}

const inks = {
  'handed-in': 'done',
  'not-handed-in': 'wrong',
  voided: 'wrong',
  running: 'now',
  grace: 'waits',
  'time-over': 'waits',
} as const;

/** How the last attempt stands, in the words of its receipt. */
function HowItStands({ exam, attempt }: { exam: MyExam; attempt: NonNullable<MyExam['attempt']> }) {
  const { title } = standingSaid(attempt.standing, exam.timeZone, null);
  return (
    <>
      <State ink={inks[attempt.standing.kind]}>{title}</State> ·{' '}
      <TextLink href={`/my/receipts/${attempt.id}`}>
        receipt
        <span className="sr-only"> of {exam.title}</span>
      </TextLink>
    </>
  );
}

function howSentence(exam: MyExam): string {
  const what = `${counted(exam.questions, 'question')}${exam.points > 0 ? `, ${pointsSaid(exam.points)}` : ''}`;
  // Where nothing is scored, which attempt counts says nothing.
  const counts = exam.points > 0 ? `, ${exam.countsSentence}` : '';
  if (exam.attemptsAllowed === null) return `${what} · as many attempts as you like${counts}`;
  const left = Math.max(0, exam.attemptsAllowed - exam.attemptsUsed);
  const attempts =
    exam.attemptsAllowed === 1 ? 'one attempt' : `${left} of ${exam.attemptsAllowed} attempts left${counts}`;
  return `${what} · ${attempts}`;
}

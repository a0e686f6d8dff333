'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { isEmptyRich } from '@/core/base/rich';
import { durationText, type Instant, minute } from '@/core/base/time';
import { counted, pointsSaid } from '@/core/base/words';
import type { ExamPurpose } from '@/core/exam/design';
import { deadlineBy } from '@/core/sitting/clock';
import type { BeforeStart as Asked } from '@/server/desk/myExams';
import { Button, ButtonLink } from '../kit/Button';
import { TextField } from '../kit/Field';
import { MyClockLine } from '../kit/MyClockLine';
import { Sheet } from '../kit/Page';
import { RichText } from '../kit/RichText';
import { useServerNow } from '../kit/useServerNow';
import { handOver, type Opening } from './opening';
import { ask } from './requests';

type Props = { exam: Asked };

/** What comes of it, in one sentence; what they see of it is said by the plan of the sitting. */
function purposeSaid({ scored, counts }: ExamPurpose): string {
  if (counts === 'taking-part') return 'It counts in full for taking part, whatever you answer.';
  if (!scored) return 'It is not scored and does not count.';
  return counts === 'no' ? 'It does not count in the gradebook.' : 'It counts in the gradebook.';
}

/** How long an attempt would have that starts now: what a closing cuts off is not promised. */
function startLength({ times }: Asked, now: Instant): string {
  const limit = times.limit ?? 0;
  const end = deadlineBy(times, now, 0);
  const got = end === null ? limit : Math.min(limit, end - now);
  return durationText(got < limit ? Math.floor(got / minute) * minute : limit);
}

/** Instructions and rules; starting is a deliberate step that repeats the time limit and what happens when it ends. */
export function BeforeStart({ exam }: Props) {
  const router = useRouter();
  const { purpose } = exam;
  const now = useServerNow(exam.now);
  // Where nothing is scored, which attempt counts says nothing.
  const counts = purpose.scored ? `; ${exam.countsSentence}` : '';
  const [state, setState] = useState<{ busy: boolean; message: string | null; field?: string }>({
    busy: false,
    message: null,
  });
  const [code, setCode] = useState('');
  const start = async () => {
    setState({ busy: true, message: null });
    const answer = await ask<{
      attemptId?: string;
      opening?: Opening;
      problems?: { message: string; field?: string }[];
    }>('/api/attempts/start', { sittingId: exam.sittingId, ...(exam.needsCode ? { code } : {}) });
    const problem = answer?.body.problems?.[0];
    const { attemptId, opening } = answer?.body ?? {};
    if (attemptId) {
      if (opening) handOver(attemptId, opening);
      router.push(`/take/${attemptId}`);
    } else
      setState({
        busy: false,
        message: problem?.message ?? 'The server could not be reached. Try again.',
        ...(problem?.field ? { field: problem.field } : {}),
      });
  };
  return (
    <Sheet className="px-6 py-5 text-lg">
      <h1 className="text-2xl">{exam.title}</h1>
      <p className="text-base text-ink-2">{exam.courseName}</p>
      {!isEmptyRich(exam.schoolInstructions) && (
        <div className="mt-4 border-l-2 border-line pl-4 text-base">
          <RichText rich={exam.schoolInstructions} />
        </div>
      )}
      {!isEmptyRich(exam.instructions) && <RichText rich={exam.instructions} className="mt-4" />}
      <ul className="mt-4 list-disc space-y-1 pl-5">
        <li>
          {counted(exam.questions, 'question')}
          {purpose.scored && `, ${pointsSaid(exam.points)}`}. Your paper is drawn for you.
        </li>
        {purpose.anonymous && (
          <li>
            Your answers are anonymous: they stay in this browser until you hand in, and are then stored without your
            name, your time or their order. Only that you took part is known.
          </li>
        )}
        <li>
          <MyClockLine times={exam.times} state={exam.clock} zone={exam.timeZone} now={exam.now} />
        </li>
        {exam.questionTimes && <li>{exam.questionTimes}</li>}
        {purpose.anonymous && (exam.times.limit !== null || exam.times.closes !== null) && (
          <li>When the time is over, an open page hands in by itself; what a closed page holds is lost.</li>
        )}
        {!purpose.anonymous && exam.further.map((sentence) => <li key={sentence}>{sentence}</li>)}
        <li>
          {purpose.anonymous
            ? 'Hand in on the device and browser on which you begin: nowhere else are your answers kept.'
            : 'Every answer is saved as you give it. You can close the page and go on later, on any device; the time runs on.'}
        </li>
        <li>
          {exam.attemptsAllowed === 1
            ? 'You have one attempt.'
            : exam.attemptsAllowed === null
              ? `You may take it as often as you like${counts}.`
              : `This is attempt ${exam.attemptsUsed + 1} of ${exam.attemptsAllowed}${counts}.`}
        </li>
        <li>{purposeSaid(purpose)}</li>
        {purpose.scored && <li>{exam.afterwards}</li>}
      </ul>
      {exam.needsCode && !exam.refusal && (
        <TextField
          label="Entry code"
          className="mt-4 max-w-60 text-base"
          autoComplete="off"
          value={code}
          onChange={(event) => setCode(event.target.value)}
          hint="You are told it in the room."
          problem={state.field === 'code' ? state.message : null}
        />
      )}
      {state.message && state.field !== 'code' && (
        <p role="alert" className="mt-4 text-brick">
          {state.message}
        </p>
      )}
      <div className="mt-5 flex flex-wrap gap-2 text-base">
        {exam.refusal ? (
          <p className="text-saffron">{exam.refusal}</p>
        ) : (
          <Button look="main" disabled={state.busy} onClick={() => void start()}>
            {state.busy
              ? 'Drawing your paper …'
              : exam.times.limit === null
                ? 'Start now'
                : `Start now: ${startLength(exam, now)}`}
          </Button>
        )}
        <ButtonLink href="/my">{exam.refusal ? 'Back to my exams' : 'Not yet'}</ButtonLink>
      </div>
    </Sheet>
  );
}

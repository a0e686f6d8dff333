'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { isEmptyRich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { durationText, momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { ExamPurpose } from '@/core/exam/design';
import type { BeforeStart as Asked } from '@/server/desk/myExams';
import { Button, ButtonLink } from '../kit/Button';
import { TextField } from '../kit/Field';
import { OwnTime } from '../kit/OwnTime';
import { Sheet } from '../kit/Page';
import { RichText } from '../kit/RichText';
import { handOver, type Opening } from './opening';
import { ask } from './requests';

type Props = { exam: Asked };

/** What comes of it, in one sentence. */
function purposeSaid({ scored, counts, anonymous }: ExamPurpose): string {
  if (counts === 'taking-part') return 'It counts in full for taking part, whatever you answer.';
  if (!scored) return 'It is not scored and does not count.';
  const seen = anonymous ? 'Nobody sees a score of yours' : 'You see your score once your instructor has published it';
  return counts === 'no' ? `${seen}. It does not count in the gradebook.` : `${seen}.`;
}

/** Instructions and rules; starting is a deliberate step that repeats the time limit and what happens when it ends. */
export function BeforeStart({ exam }: Props) {
  const router = useRouter();
  const { purpose } = exam;
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
          {purpose.scored && `, ${pointsText(exam.points)} points`}. Your paper is drawn for you.
        </li>
        {purpose.anonymous && (
          <li>
            Your answers are anonymous: they stay in this browser until you hand in, and are then stored without your
            name, your time or their order. Only that you took part is known.
          </li>
        )}
        <li>
          {exam.limit === null
            ? 'There is no time limit.'
            : `You have ${durationText(exam.limit)} from the moment you start${exam.extraTime ? '; your extra time is included' : ''}.`}
        </li>
        {exam.closes !== null && (
          <li>
            It closes {momentText(exam.closes, exam.timeZone)} ({exam.timeZone})
            <OwnTime at={exam.closes} zone={exam.timeZone} />
            {exam.fullTime ? '; who has started gets the full time.' : ', also for attempts that are running.'}
          </li>
        )}
        {purpose.anonymous && (exam.limit !== null || exam.closes !== null) && (
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
              ? `You may take it as often as you like; ${exam.countsSentence}.`
              : `This is attempt ${exam.attemptsUsed + 1} of ${exam.attemptsAllowed}; ${exam.countsSentence}.`}
        </li>
        <li>{purposeSaid(purpose)}</li>
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
              : exam.limit === null
                ? 'Start now'
                : `Start now: ${durationText(exam.limit)}`}
          </Button>
        )}
        <ButtonLink href="/my">{exam.refusal ? 'Back to my exams' : 'Not yet'}</ButtonLink>
      </div>
    </Sheet>
  );
}

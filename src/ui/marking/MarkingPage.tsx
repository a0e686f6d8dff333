'use client';
import Link from 'next/link';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { Stroke } from '@/core/attempt/strokes';
import { isEmptyRich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { counted, pointsSaid } from '@/core/base/words';
import { countWords } from '@/core/question/types/written/student';
import type { AnswerToMark as Answer, MarkingPage as Page } from '@/server/marking/markAnswers';
import { Button } from '../kit/Button';
import { TextArea, TextField } from '../kit/Field';
import { numberIn } from '../kit/numberIn';
import { PageTitle, Sheet } from '../kit/Page';
import { PaperDocument } from '../kit/PaperDocument';
import { PaperRuler } from '../kit/PaperRuler';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { RichText } from '../kit/RichText';
import { type Command, usePerform } from '../kit/usePerform';
import { RubricTable } from '../question/written/RubricTable';

type Props = {
  base: string;
  page: Page;
  mark: Command<[slotId: string, input: unknown], { points: number }>;
};

const answerSaid = (stroke: Stroke) =>
  `Answer ${stroke.number}: ${stroke.awaitsMark ? 'waits for a mark' : 'marked'}${stroke.current ? ', here now' : ''}`;

const firstWaiting = (answers: Answer[], from = 0): number => {
  const after = answers.findIndex((answer, i) => i >= from && answer.points === null);
  return after >= 0 ? after : answers.findIndex((answer) => answer.points === null);
};

/** Answers to one question, names hidden, one after the other: type the points, Enter, and the next stands there. */
export function MarkingPage({ base, page, mark }: Props) {
  const { perform, problems, busy, setProblems } = usePerform();
  const [answers, setAnswers] = useState(page.answers);
  const [at, setAt] = useState(() => Math.max(0, firstWaiting(page.answers)));
  const answer = answers[at] as Answer;
  /** What was typed and not saved, by answer: walking on and back loses nothing. */
  const [typed, setTyped] = useState<Record<string, { points: string; comment: string }>>({});
  const stored = { points: answer.points === null ? '' : pointsText(answer.points), comment: answer.comment };
  const { points, comment } = typed[answer.slotId] ?? stored;
  const type = (part: Partial<typeof stored>) => setTyped({ ...typed, [answer.slotId]: { points, comment, ...part } });
  /** Said to people who hear the page: what was saved, and what stands there now. */
  const [saved, setSaved] = useState('');
  const pointsField = useRef<HTMLDivElement>(null);
  const waiting = answers.filter((one) => one.points === null).length;

  const show = (to: number, list = answers) => {
    const next = list[to];
    if (!next) return;
    setAt(to);
    setProblems([]);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the points field takes the focus with each answer
  useEffect(() => {
    pointsField.current?.querySelector('input')?.focus();
  }, [at]);

  const save = async () => {
    const value = numberIn(points);
    if (points.trim() === '' || !Number.isFinite(value)) {
      setProblems([{ code: 'bad-input', field: 'points', message: 'Type the points as a number.' }]);
      return;
    }
    const given = await perform(() =>
      mark(answer.slotId, { points: value, comment, revision: answer.revision, before: answer.points }),
    );
    if (!given) return;
    const next = answers.map((one) => (one.slotId === answer.slotId ? { ...one, points: value, comment } : one));
    setAnswers(next);
    setTyped(({ [answer.slotId]: _, ...others }) => others);
    const waitingNext = firstWaiting(next, at + 1);
    setSaved(
      `${pointsSaid(value)} for answer ${answer.number} saved.${waitingNext >= 0 ? ` Answer ${next[waitingNext]?.number} is shown.` : ''}`,
    );
    if (waitingNext >= 0) show(waitingNext, next);
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.altKey && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      event.preventDefault();
      show(at + (event.key === 'ArrowDown' ? 1 : -1));
    } else if (
      event.key === 'Enter' &&
      (event.ctrlKey || event.metaKey || (event.target as HTMLElement).tagName === 'INPUT')
    ) {
      event.preventDefault();
      void save();
    }
  };
  const strokes = answers.map((one, i) => ({
    number: one.number,
    partTitle: '',
    answered: true,
    awaitsMark: one.points === null,
    current: i === at,
  }));
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keys of this page work wherever the focus is
    <div className="min-w-0" onKeyDown={onKey}>
      <PageTitle
        title={page.questionName}
        back={{ href: base, name: 'Marking' }}
        note={`${page.sittingTitle} · ${answers.length - waiting} of ${answers.length} marked`}
      />
      <p role="status" className="sr-only">
        {saved}
      </p>
      <div className="mb-4">
        <PaperRuler
          strokes={strokes}
          onPick={(number) => show(number - 1)}
          label="Answers in your order"
          say={answerSaid}
        />
      </div>
      <div className="grid items-start gap-4 lg:grid-cols-[1.5fr_1fr]">
        <Sheet label={`Answer ${answer.number}`}>
          <div className="flex items-baseline justify-between border-b border-line px-5 py-2">
            <h2 className="text-lg">{answer.whose ?? `Answer ${answer.number}`}</h2>
            <span className="text-sm text-ink-2">
              {answer.whose === null && `${counted(countWords(answer.text), 'word')} · `}
              {answer.points === null ? 'waits for a mark' : `${pointsSaid(answer.points)} given`}
              {typed[answer.slotId] && <span className="text-saffron"> · typed, not saved</span>}
            </span>
          </div>
          <div className="max-h-[24rem] min-h-40 overflow-y-auto px-5 py-4 text-lg">
            {answer.rich ? (
              <RichText rich={answer.rich} />
            ) : (
              <p className="font-serif whitespace-pre-wrap">
                {answer.text || (
                  <span className="text-ink-2">
                    {answer.whose === null ? 'No words, only what was handed in.' : 'This answer stands on paper.'}
                  </span>
                )}
              </p>
            )}
          </div>
          {answer.files.length > 0 && (
            <ul aria-label="Files handed in" className="border-t border-line px-5 py-2">
              {answer.files.map((file) => (
                <li key={file.id}>
                  <a href={`/answer-files/${file.id}`} download className="text-prussian underline">
                    {file.name}
                  </a>
                </li>
              ))}
            </ul>
          )}
          <div className="grid grid-cols-[9rem_1fr] items-start gap-4 border-t border-line px-5 py-4">
            <div ref={pointsField}>
              <TextField
                label={`Points, 0 to ${pointsText(answer.outOf)}`}
                inputMode="decimal"
                autoComplete="off"
                value={points}
                onChange={(event) => type({ points: event.target.value })}
                problem={problemAt(problems, 'points')}
              />
            </div>
            <TextArea
              label="Comment for the student (Ctrl+Enter saves)"
              rows={3}
              value={comment}
              onChange={(event) => type({ comment: event.target.value })}
              problem={problemAt(problems, 'comment')}
            />
          </div>
          <Problems problems={problemsBesides(problems, ['points', 'comment'])} className="mx-5 mb-3" />
          <footer className="flex flex-wrap items-center gap-2 border-t border-line px-5 py-2.5">
            <span className="mr-auto text-sm text-ink-2">Enter: save, next · Alt+↑↓: walk</span>
            <Button onClick={() => show(at - 1)} whyNot={at === 0 ? 'This is the first answer.' : null}>
              Previous
            </Button>
            <Button onClick={() => show(at + 1)} whyNot={at === answers.length - 1 ? 'This is the last answer.' : null}>
              Next
            </Button>
            <Button look="main" disabled={busy} onClick={() => void save()}>
              Save the mark
            </Button>
          </footer>
        </Sheet>
        <aside className="space-y-4 lg:sticky lg:top-3">
          <Sheet label="Question" className="px-5 py-3">
            <h2 className="mb-1 font-sans text-sm font-medium text-ink-2">The question</h2>
            <RichText rich={page.stem} className="text-lg" />
          </Sheet>
          {page.document && <PaperDocument {...page.document} />}
          {page.passage && (
            <Sheet label="Passage" className="px-5 py-3">
              <details>
                <summary className="text-sm font-medium text-prussian">The passage it belongs to</summary>
                <RichText rich={page.passage} className="mt-2 max-h-80 overflow-y-auto" />
              </details>
            </Sheet>
          )}
          {!isEmptyRich(page.modelAnswer) && (
            <Sheet label="Model answer" className="px-5 py-3">
              <h2 className="mb-1 font-sans text-sm font-medium text-pine">Model answer</h2>
              <RichText rich={page.modelAnswer} />
            </Sheet>
          )}
          {page.rubric && (
            <Sheet label="Rubric" className="px-5 py-3">
              <h2 className="mb-1 font-sans text-sm font-medium text-ink-2">Rubric</h2>
              <RubricTable rubric={page.rubric} />
            </Sheet>
          )}
          {waiting === 0 && (
            <p role="status" className="text-pine">
              All answers to this question are marked.{' '}
              <Link href={base} className="underline">
                Back to the queue
              </Link>
            </p>
          )}
        </aside>
      </div>
    </div>
  );
}

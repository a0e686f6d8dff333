'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import { pointsSaid } from '@/core/base/words';
import type { MarkInHistory } from '@/server/marking/adjust';
import type { MarkedPaper, MarkedQuestion } from '@/server/marking/responses';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { Link } from '../kit/Link';
import { OnSheet } from '../kit/OnSheet';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { ReturnedFiles } from '../kit/ReturnedFiles';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { WholeSheet } from '../kit/WholeSheet';
import { AdjustForm } from './AdjustForm';
import { earnedSaid, kindSaid } from './markSaid';

type MarkedPaperCommands = Commands<'adjustMark' | 'adjustPaper', 'courseId' | 'sittingId'>;

type Props = {
  back: { href: string; name: string };
  /** The address of this student's papers, and of the answers to each question. */
  here: string;
  responses: string;
  paper: MarkedPaper;
  commands: MarkedPaperCommands;
};

const adjustmentSaid = (points: number) => `${points >= 0 ? '+' : '−'}${pointsText(Math.abs(points))}`;

/** A handed-in paper with every mark: who gave it, when and why, and the way to adjust it. */
export function MarkedPaperPage({ back, here, responses, paper, commands }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const [done, setDone] = useState('');
  const { score, adjustments, timeZone } = paper;
  const [latest] = adjustments;
  const said = (text: string) => {
    setOpen(null);
    setDone(text);
  };
  return (
    <PageFrame width="sheet">
      <PageTitle
        title={paper.student}
        back={back}
        note={
          <>
            {paper.sittingTitle}
            {paper.attempts.length > 1 && (
              <>
                {' · attempt '}
                {paper.attempts.map((number) =>
                  number === paper.attempt ? (
                    <strong key={number} className="mr-1">
                      {number}
                    </strong>
                  ) : (
                    <TextLink key={number} href={`${here}?attempt=${number}`} className="mr-1">
                      {number}
                    </TextLink>
                  ),
                )}
              </>
            )}
            {paper.endedAt !== null && ` · handed in ${momentText(paper.endedAt, timeZone)}`}
          </>
        }
      />
      {done && (
        <Done className="mb-3" onUndo={null}>
          {done}
        </Done>
      )}
      <Sheet label="Score" className="mb-4 px-5 py-3">
        <p className="flex flex-wrap items-baseline gap-x-3">
          <span className="text-lg">
            {pointsText(score.earned)} of {pointsSaid(score.possible)}
          </span>
          {score.waiting > 0 && <State ink="hand">{score.waiting} still to be marked</State>}
          {latest && latest.points !== 0 && (
            <span className="text-ink-2">
              with {adjustmentSaid(latest.points)} for the whole paper: {latest.reason}
            </span>
          )}
          {open !== 'whole' && (
            <TextButton className="ml-auto" onClick={() => setOpen('whole')}>
              Adjust the whole paper
            </TextButton>
          )}
        </p>
        {open === 'whole' && (
          <AdjustForm
            label="Points added (− takes away)"
            points={latest?.points ?? null}
            act="Adjust the paper"
            adjust={(input) => commands.adjustPaper(paper.attemptId, { ...input, before: latest?.id ?? null })}
            onDone={() =>
              said('The paper is adjusted. A published result stays as it was until the change is published.')
            }
            onClose={() => setOpen(null)}
          />
        )}
        {adjustments.length > 1 && (
          <details className="mt-1 text-sm">
            <summary className="text-prussian">Earlier adjustments of the whole</summary>
            <ul>
              {adjustments.slice(1).map((one) => (
                <li key={one.id} className="text-ink-2">
                  {momentText(one.at, timeZone)}, {one.by}: {adjustmentSaid(one.points)}, {one.reason}
                </li>
              ))}
            </ul>
          </details>
        )}
      </Sheet>
      <WholeSheet sheets={paper.sheets} said="The answer sheet as it was read in" className="mb-4" />
      <Sheet label="Questions">
        <ol>
          {paper.questions.map((question) => (
            <li key={question.slotId} className="border-b border-line px-5 py-2.5 last:border-b-0">
              <div className="flex flex-wrap items-baseline gap-x-3">
                <span className="w-6 text-right text-ink-2 tabular-nums">{question.number}</span>
                <Link href={`${responses}/${question.questionId}/responses`} className="text-prussian hover:underline">
                  {question.name}
                </Link>
                <span className="ml-auto tabular-nums">
                  {question.points === null && question.kind !== 'left-out' ? (
                    <State ink="hand">waits for a mark</State>
                  ) : (
                    earnedSaid(question.points, question.kind, question.outOf)
                  )}
                </span>
                {open !== question.slotId && (
                  <TextButton className="text-sm" onClick={() => setOpen(question.slotId)}>
                    Adjust<span className="sr-only"> question {question.number}</span>
                  </TextButton>
                )}
              </div>
              <p className="ml-9 line-clamp-3 font-serif whitespace-pre-wrap">
                {question.text || (
                  <span className="font-sans text-ink-2">
                    {question.onSheet === 'points' ? 'answered on paper' : 'left empty'}
                  </span>
                )}
              </p>
              {question.onSheet && (
                <OnSheet
                  slotId={question.slotId}
                  stands={question.onSheet}
                  number={question.number}
                  className="mt-1 ml-9"
                />
              )}
              {question.comment && <p className="ml-9 text-sm text-ink-2">“{question.comment}”</p>}
              <ReturnedFiles
                files={question.files}
                label={`Annotated files of question ${question.number}`}
                className="ml-9 text-sm"
              />
              {open === question.slotId && (
                <div className="ml-9">
                  <AdjustForm
                    about={question.slotId}
                    label={`Points, 0 to ${pointsText(question.outOf)}`}
                    points={question.points}
                    act="Adjust the mark"
                    adjust={(input) =>
                      commands.adjustMark(question.slotId, {
                        ...input,
                        revision: question.revision,
                        before: question.markId,
                      })
                    }
                    onDone={() => said(`Question ${question.number} is adjusted.`)}
                    onClose={() => setOpen(null)}
                  />
                </div>
              )}
              <History question={question} timeZone={timeZone} />
            </li>
          ))}
        </ol>
      </Sheet>
    </PageFrame>
  );
}

function History({ question: { history, number }, timeZone }: { question: MarkedQuestion; timeZone: string }) {
  if (history.length < 2 && history.every((one) => one.kind === 'automatic' && one.reason === '')) return null;
  return (
    <details className="ml-9 text-sm">
      <summary className="text-prussian">
        Marks so far<span className="sr-only"> of question {number}</span> ({history.length})
      </summary>
      <ol className="text-ink-2">
        {history.map((one, i) => (
          <li key={one.id} className={one.fallen ? 'line-through' : ''}>
            {momentText(one.at, timeZone)}, {one.by ?? 'by rule'}: {changeSaid(history[i - 1], one)} (
            {kindSaid[one.kind]}
            {one.reason && `: ${one.reason}`}){one.fallen === 'taken-back' && ' · taken back'}
            {one.fallen === 'answer-changed' && ' · the answer has changed since'}
          </li>
        ))}
      </ol>
    </details>
  );
}

const changeSaid = (before: MarkInHistory | undefined, now: MarkInHistory): string =>
  before ? `${pointsText(before.points)} → ${pointsSaid(now.points)}` : pointsSaid(now.points);

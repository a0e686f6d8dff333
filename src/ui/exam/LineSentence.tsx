'use client';
import { oneOrMany, pointsSaid } from '@/core/base/words';
import type { DrawLine, FixedLine, PassageLine } from '@/core/exam/design';
import { questionTypeNames } from '@/core/question/definitions';
import type { QuestionType } from '@/core/question/types';
import { NumberPiece } from '../kit/NumberPiece';
import { SentencePiece } from '../kit/SentencePiece';
import { NarrowPiece, PoolPieces, poolSaid, type Sources } from './PoolPieces';

const passagesSaid = (count: number) => oneOrMany(count, 'passage');

/** "Draw 3 from Tides › Heights, medium, 2 points each": each underlined piece opens its own small editor. */
export function DrawSentence({
  line,
  sources,
  mayChange,
  onChange,
}: {
  line: DrawLine | PassageLine;
  sources: Sources;
  mayChange: boolean;
  onChange: (line: DrawLine | PassageLine) => void;
}) {
  if (!mayChange)
    return (
      <span>
        Draw {line.count}{' '}
        {line.kind === 'passage' && `${passagesSaid(line.count)} with ${line.questions} questions each `}from{' '}
        {poolSaid(line.pool, sources)}, {pointsSaid(line.points)} each
      </span>
    );
  return (
    <span>
      Draw{' '}
      <SentencePiece says={line.count} label={`How many to draw: ${line.count}`}>
        {(close) => (
          <NumberPiece
            label="How many questions"
            value={line.count}
            whole
            onSet={(count) => onChange({ ...line, count })}
            onDone={close}
          />
        )}
      </SentencePiece>{' '}
      {line.kind === 'passage' && (
        <>
          {passagesSaid(line.count)} with{' '}
          <SentencePiece says={line.questions} label={`Questions of each passage: ${line.questions}`}>
            {(close) => (
              <NumberPiece
                label="Questions of each passage"
                value={line.questions}
                whole
                onSet={(questions) => onChange({ ...line, questions })}
                onDone={close}
              />
            )}
          </SentencePiece>{' '}
          {oneOrMany(line.questions, 'question')} each{' '}
        </>
      )}
      from <PoolPieces pool={line.pool} sources={sources} onChange={(pool) => onChange({ ...line, pool })} />,{' '}
      <SentencePiece says={pointsSaid(line.points)} label={`Points each: ${pointsSaid(line.points)}`}>
        {(close) => (
          <NumberPiece
            label="Points each"
            value={line.points}
            onSet={(points) => onChange({ ...line, points })}
            onDone={close}
          />
        )}
      </SentencePiece>{' '}
      each · <NarrowPiece pool={line.pool} sources={sources} onChange={(pool) => onChange({ ...line, pool })} />
    </span>
  );
}

/** A fixed question with its points. */
export function FixedSentence({
  line,
  question,
  mayChange,
  onChange,
}: {
  line: FixedLine;
  question: { name: string; type: QuestionType } | null;
  mayChange: boolean;
  onChange: (line: FixedLine) => void;
}) {
  return (
    <span>
      <span className={question ? 'font-serif' : 'text-brick'}>{question?.name ?? 'A question that is gone'}</span>
      {question && <span className="text-ink-2"> ({questionTypeNames[question.type].toLowerCase()})</span>},{' '}
      {mayChange ? (
        <SentencePiece says={pointsSaid(line.points)} label={`Points: ${pointsSaid(line.points)}`}>
          {(close) => (
            <NumberPiece
              label="Points"
              value={line.points}
              onSet={(points) => onChange({ ...line, points })}
              onDone={close}
            />
          )}
        </SentencePiece>
      ) : (
        pointsSaid(line.points)
      )}
    </span>
  );
}

'use client';
import { pointsText } from '@/core/base/rounding';
import { pointsSaid } from '@/core/base/words';
import { choosing } from '@/core/exam/arrangeDesign';
import { type ExamPart, type ExtraAnswerRule, partCount, partPoints } from '@/core/exam/design';
import { NumberPiece } from '../kit/NumberPiece';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';

const extraSaid: Record<ExtraAnswerRule, { says: string; means?: string }> = {
  refused: { says: 'more cannot be answered', means: 'more cannot be answered: one has to be cleared first' },
  best: { says: 'of more the best count' },
  'credit-in-part': {
    says: 'more are extra credit in the part',
    means: 'more are extra credit, up to the points of this part',
  },
  'credit-in-exam': {
    says: 'more are extra credit in the exam',
    means: 'more are extra credit, up to the points of the whole exam',
  },
};

/** How many of a part's questions the student answers, and what happens to more; with the total it makes. */
export function ChoosePieces({
  part,
  mayChange,
  onChange,
}: {
  part: ExamPart;
  mayChange: boolean;
  onChange: (part: ExamPart) => void;
}) {
  const { choose } = part;
  const has = partCount(part);
  const each = part.lines[0]?.points ?? 0;
  const total = choose && (
    <span className="text-ink-2">
      {' '}
      {Math.min(choose.count, has)} × {pointsText(each)} = {pointsSaid(partPoints(part))}.
    </span>
  );
  if (!mayChange)
    return choose ? (
      <span>
        The student answers any {choose.count} of {has}; {extraSaid[choose.extra].says}.{total}
      </span>
    ) : null;
  return (
    <span>
      The student answers{' '}
      <PickPiece
        label="How many are answered"
        value={choose ? 'some' : 'all'}
        options={[
          { value: 'all', says: 'all of them' },
          { value: 'some', says: 'any', means: 'any k of them: a choose-part, all worth the same' },
        ]}
        onPick={(value) =>
          onChange(
            choosing(part, value === 'some' ? { count: Math.max(1, Math.min(2, has - 1)), extra: 'best' } : undefined),
          )
        }
      />
      {choose && (
        <>
          {' '}
          <SentencePiece
            says={choose.count}
            label={`How many the student answers: ${choose.count}`}
            wrong={has > 0 && choose.count > has}
          >
            {(close) => (
              <NumberPiece
                label="How many the student answers"
                value={choose.count}
                whole
                onSet={(count) => onChange({ ...part, choose: { ...choose, count } })}
                onDone={close}
              />
            )}
          </SentencePiece>{' '}
          of {has};{' '}
          <PickPiece
            label="Answers beyond that"
            value={choose.extra}
            options={(Object.keys(extraSaid) as ExtraAnswerRule[]).map((value) => ({ value, ...extraSaid[value] }))}
            onPick={(extra) => onChange({ ...part, choose: { ...choose, extra } })}
          />
        </>
      )}
      .{total}
    </span>
  );
}

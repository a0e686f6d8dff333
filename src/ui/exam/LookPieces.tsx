'use client';
import { type ExamDesign, type ExamPurpose, type PageRule, usualPurpose } from '@/core/exam/design';
import { usualFurtherSaid } from '@/core/exam/designSaid';
import { choiceOrderSaid, type ShuffleCount } from '@/core/exam/orderSaid';
import { choiceLabel } from '@/core/question/choiceLabel';
import { noUsualRules, type UsualRules } from '@/core/sitting/lastingRules';
import { attemptCountings } from '@/core/sitting/rules';
import { NumberPiece } from '../kit/NumberPiece';
import { Sheet } from '../kit/Page';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';
import { TextButton } from '../kit/TextButton';

type Props = {
  design: ExamDesign;
  /** How many questions allow shuffling, as far as known. */
  shuffle: ShuffleCount | null;
  mayChange: boolean;
  onChange: (design: ExamDesign) => void;
};

const scoredSaid = { yes: 'is scored', no: 'is not scored' } as const;
const countsSaid: Record<ExamPurpose['counts'], string> = {
  score: 'by its score',
  'taking-part': 'in full for taking part',
  no: 'not at all',
};
const namedSaid = { named: 'stand with their names', anonymous: 'are anonymous' } as const;
const pagesSaid: Record<PageRule, string> = {
  each: 'one at a time',
  all: 'all on one page',
  breaks: 'with a new page where you put one',
};
const usualMinutes = 60;
const countingSaid: Record<UsualRules['attemptCounts'], string> = {
  best: 'the best counts',
  first: 'the first counts',
  last: 'the last counts',
  mean: 'the mean counts',
};
const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].flatMap((letter) => [letter, letter.toLowerCase()]);
const labelsSaid = (labels: string) =>
  labels === 'none' ? 'nothing' : `${[0, 1, 2].map((place) => choiceLabel(labels, place)).join(', ')} …`;

/** What the exam is for, as three separate settings, and how its papers look: sentences whose pieces are set in place. */
export function LookPieces({ design, shuffle, mayChange, onChange }: Props) {
  const purpose = design.purpose ?? usualPurpose;
  const set = (change: Partial<ExamPurpose>) => onChange({ ...design, purpose: { ...purpose, ...change } });
  const noScore = !purpose.scored
    ? 'What is not scored cannot count by its score.'
    : purpose.anonymous
      ? 'Nobody knows whose score it would be.'
      : null;
  const without = purpose.counts === 'score' ? { counts: 'no' as const } : {};
  if (!mayChange)
    return (
      <Sheet label="What it is for" className="px-4 py-2">
        The exam {scoredSaid[purpose.scored ? 'yes' : 'no']}, counts in the gradebook {countsSaid[purpose.counts]}, and
        its answers {namedSaid[purpose.anonymous ? 'anonymous' : 'named']}.
        {!design.offScreen && ` Questions come ${pagesSaid[design.pages ?? 'each']}.`}
      </Sheet>
    );
  return (
    <Sheet label="What it is for" className="space-y-1 px-4 py-2">
      <div>
        The exam{' '}
        <PickPiece
          label="Whether it is scored"
          value={purpose.scored ? 'yes' : 'no'}
          options={[
            { value: 'yes', says: scoredSaid.yes },
            { value: 'no', says: scoredSaid.no, means: 'is not scored: a survey, or practice without points' },
          ]}
          onPick={(value) => set(value === 'yes' ? { scored: true } : { scored: false, ...without })}
        />
        , counts in the gradebook{' '}
        <PickPiece
          label="How it counts"
          value={purpose.counts}
          options={[
            { value: 'score', says: countsSaid.score, whyNot: noScore },
            { value: 'taking-part', says: countsSaid['taking-part'] },
            { value: 'no', says: countsSaid.no },
          ]}
          onPick={(counts) => set({ counts })}
        />
        , and its answers{' '}
        <PickPiece
          label="Whose answers they are"
          value={purpose.anonymous ? 'anonymous' : 'named'}
          options={[
            { value: 'named', says: namedSaid.named },
            {
              value: 'anonymous',
              says: namedSaid.anonymous,
              means: 'are anonymous: nothing stored links them to a person; they are shown from five hand-ins on',
            },
          ]}
          onPick={(value) => set(value === 'anonymous' ? { anonymous: true, ...without } : { anonymous: false })}
        />
        .
      </div>
      {!design.offScreen && (
        <div>
          Questions come{' '}
          <PickPiece
            label="Pages"
            value={design.pages ?? 'each'}
            options={(['each', 'all', 'breaks'] as const).map((value) => ({ value, says: pagesSaid[value] }))}
            onPick={(pages) => onChange({ ...design, pages })}
          />
          . Their choices are{' '}
          <PickPiece
            label="Order of choices"
            value={design.choices ?? 'shuffled'}
            options={[
              { value: 'shuffled', says: 'shuffled where their question allows it' },
              { value: 'as-written', says: 'never shuffled' },
            ]}
            onPick={(value) => {
              const { choices: _, ...rest } = design;
              onChange(value === 'as-written' ? { ...rest, choices: 'as-written' } : rest);
            }}
          />{' '}
          and labelled{' '}
          <PickPiece
            label="Labels of choices"
            value={design.labels ?? 'A'}
            options={['A', 'a', '1', 'none', ...letters.filter((one) => one !== 'A' && one !== 'a')].map((value) => ({
              value,
              says: labelsSaid(value),
            }))}
            onPick={(labels) => onChange({ ...design, labels })}
          />
          , unless a question says otherwise.{' '}
          <span className="text-sm text-ink-2">{choiceOrderSaid(design, shuffle)}</span>
        </div>
      )}
      <div>
        It is usually given with{' '}
        <UsualPieces usual={design.usual ?? noUsualRules} onChange={(usual) => onChange({ ...design, usual })} />
      </div>
    </Sheet>
  );
}

/** The rules a new sitting begins with; each sitting can set its own. */
function UsualPieces({ usual, onChange }: { usual: UsualRules; onChange: (usual: UsualRules) => void }) {
  const { timeLimitMinutes, attemptsAllowed, attemptCounts } = usual;
  const further = usualFurtherSaid(usual);
  const attempts = attemptsAllowed === null ? 'any' : attemptsAllowed === 1 ? 'one' : 'some';
  return (
    <>
      <PickPiece
        label="Usual time limit"
        value={timeLimitMinutes === null ? 'none' : 'limit'}
        options={[
          { value: 'none', says: 'no time limit' },
          { value: 'limit', says: 'a time limit', means: 'a time limit in minutes' },
        ]}
        onPick={(value) => onChange({ ...usual, timeLimitMinutes: value === 'none' ? null : usualMinutes })}
      />
      {timeLimitMinutes !== null && (
        <>
          {' of '}
          <SentencePiece says={`${timeLimitMinutes} minutes`} label={`Usual minutes: ${timeLimitMinutes} minutes`}>
            {(close) => (
              <NumberPiece
                label="Minutes"
                value={timeLimitMinutes}
                whole
                onSet={(minutes) => onChange({ ...usual, timeLimitMinutes: minutes })}
                onDone={close}
              />
            )}
          </SentencePiece>
        </>
      )}{' '}
      and{' '}
      <PickPiece
        label="Usual attempts"
        value={attempts}
        options={[
          { value: 'one', says: 'one attempt' },
          { value: 'some', says: 'several attempts' },
          { value: 'any', says: 'as many attempts as wanted' },
        ]}
        onPick={(value) => onChange({ ...usual, attemptsAllowed: value === 'one' ? 1 : value === 'any' ? null : 2 })}
      />
      {attempts === 'some' && (
        <>
          {', '}
          <SentencePiece says={attemptsAllowed} label={`How many attempts: ${attemptsAllowed}`}>
            {(close) => (
              <NumberPiece
                label="Attempts"
                value={attemptsAllowed ?? 2}
                whole
                onSet={(count) => onChange({ ...usual, attemptsAllowed: count })}
                onDone={close}
              />
            )}
          </SentencePiece>
        </>
      )}
      {attempts !== 'one' && (
        <>
          {', of which '}
          <PickPiece
            label="Which attempt counts"
            value={attemptCounts}
            options={attemptCountings.map((value) => ({ value, says: countingSaid[value] }))}
            onPick={(value) => onChange({ ...usual, attemptCounts: value })}
          />
        </>
      )}
      .
      {further.length > 0 && (
        <>
          {' '}
          {further.join(' ')}{' '}
          <TextButton onClick={() => onChange({ ...usual, further: undefined, releasePlan: undefined })}>
            Leave these out
          </TextButton>
        </>
      )}
      <span className="block text-sm text-ink-2">
        A sitting can keep all of its own rules here, so that the next one begins with them.
      </span>
    </>
  );
}

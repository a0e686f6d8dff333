'use client';
import { counted } from '@/core/base/words';
import type { Learning } from '@/core/release/plan';
import type { FurtherRules } from '@/core/sitting/rules';
import { percentSaid } from '@/core/sitting/rulesSaid';
import { NumberPiece } from '../kit/NumberPiece';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';
import { SentenceProblem, SharePiece } from './RulePieces';

const learningSaid: Record<Learning, { says: string; means: string }> = {
  'by-plan': { says: 'as set under “What students see”', means: 'as set under “What students see”, and not before' },
  'on-hand-in': { says: 'on hand-in', means: 'on hand-in: what was right and wrong' },
  'as-they-go': { says: 'as they go', means: 'as they go: each question can be checked, and then closes' },
};

/** When students learn how they did, how often a question may be tried, and whether missed ones come again. */
export function LearningSentence({
  further,
  onSet,
  problem,
}: {
  further: FurtherRules;
  onSet: (part: Partial<FurtherRules>) => void;
  problem: string | null;
}) {
  const { learning, tries, missedAgain } = further;
  const most = tries?.most ?? 1;
  return (
    <div>
      They learn how they did{' '}
      <PickPiece
        label="When students learn how they did"
        value={learning}
        options={(['by-plan', 'on-hand-in', 'as-they-go'] as const).map((value) => ({ value, ...learningSaid[value] }))}
        onPick={(value) =>
          onSet(value === 'as-they-go' ? { learning: value } : { learning: value, tries: null, missedAgain: null })
        }
      />
      {learning === 'as-they-go' && (
        <>
          ; each question can be tried{' '}
          <SentencePiece
            says={most === 1 ? 'once' : counted(most, 'time')}
            label={`Tries: ${most === 1 ? 'once' : counted(most, 'time')}`}
          >
            {(close) => (
              <NumberPiece
                label="How often a question can be tried"
                value={most}
                whole
                onSet={(value) => onSet({ tries: value === 1 ? null : { most: value, cost: tries?.cost ?? 0.25 } })}
                onDone={close}
              />
            )}
          </SentencePiece>
          {tries && (
            <>
              , each further try costing{' '}
              <SharePiece
                label="What a further try costs"
                share={tries.cost}
                onSet={(cost) => onSet({ tries: { ...tries, cost } })}
              />{' '}
              of the credit
            </>
          )}
          ;{' '}
          <PickPiece
            label="Missed questions at the end"
            value={missedAgain ? 'some' : 'none'}
            options={[
              { value: 'none', says: 'missed questions do not come again' },
              { value: 'some', says: 'missed questions come again at the end' },
            ]}
            onPick={(value) => onSet({ missedAgain: value === 'some' ? { most: 3, credit: 0.5 } : null })}
          />
          {missedAgain && (
            <>
              , up to{' '}
              <SentencePiece says={missedAgain.most} label={`Missed questions: ${missedAgain.most}`}>
                {(close) => (
                  <NumberPiece
                    label="How many missed questions"
                    value={missedAgain.most}
                    whole
                    onSet={(value) => onSet({ missedAgain: { ...missedAgain, most: value } })}
                    onDone={close}
                  />
                )}
              </SentencePiece>{' '}
              of them, for{' '}
              <SharePiece
                label="What they then bring"
                share={missedAgain.credit}
                onSet={(credit) => onSet({ missedAgain: { ...missedAgain, credit } })}
              />{' '}
              of the credit
            </>
          )}
        </>
      )}
      .{learning === 'as-they-go' && tries?.cost === 0 && ` ${percentSaid(0)}: trying is for learning.`}
      <SentenceProblem text={problem} />
    </div>
  );
}

'use client';
import { durationText } from '@/core/base/time';
import { type RoundLearning, type RoundRules, rulesThatHold, type WayIn } from '@/core/round/roundRules';
import { learningSaid, wayInSaid } from '@/core/round/roundSaid';
import { PickPiece } from '../kit/PickPiece';

const ways: readonly { value: WayIn; says: string }[] = (['name', 'number', 'sign-in', 'nameless'] as const).map(
  (value) => ({ value, says: wayInSaid[value] }),
);

const seconds = ['none', '15', '30', '45', '60', '90', '120', '180', '300'] as const;

type Props = {
  rules: RoundRules;
  onChange: (rules: RoundRules) => void;
  sections: readonly { id: string; name: string }[];
  sectionId: string | null;
  onSection: (sectionId: string | null) => void;
  /** Whether the round has begun, so that only what can still be chosen is. */
  begun?: boolean;
};

/** How a round is held, as sentences whose pieces can be changed. */
export function RoundSentences({ rules, onChange, sections, sectionId, onSection, begun = false }: Props) {
  const set = (change: Partial<RoundRules>) => onChange({ ...rules, ...change });
  const held = rulesThatHold(rules);
  const isLed = rules.pace === 'led';
  const learnings = (['each', 'last', 'stop', 'never'] as const).map((value: RoundLearning) => ({
    value,
    says: isLed && value === 'each' ? 'as you show it' : learningSaid[value],
    whyNot: isLed && value === 'last' ? 'Led, the last question is over when you stop the round.' : null,
  }));
  return (
    <div className="space-y-1.5 leading-relaxed">
      {!begun && (
        <p>
          {sections.length > 0 && (
            <>
              For{' '}
              <PickPiece
                label="Who it is for"
                value={sectionId ?? 'all'}
                options={[
                  { value: 'all', says: 'the whole course' },
                  ...sections.map((one) => ({ value: one.id, says: one.name })),
                ]}
                onPick={(value) => onSection(value === 'all' ? null : value)}
              />
              .{' '}
            </>
          )}
          <PickPiece
            label="Pace"
            value={rules.pace}
            options={[
              { value: 'led', says: 'Led', means: 'Led: you open one question after the other for all' },
              { value: 'own', says: 'At their own pace', means: 'Everybody at their own pace' },
            ]}
            onPick={(pace) =>
              set({ pace, ...(pace === 'led' && rules.learning === 'last' ? { learning: 'each' } : {}) })
            }
          />
          {isLed ? (
            <>
              , one question after the other,{' '}
              <PickPiece
                label="Time for each question"
                value={rules.seconds === null ? 'none' : (String(rules.seconds) as (typeof seconds)[number])}
                options={seconds.map((value) => ({
                  value,
                  says: value === 'none' ? 'until you close it' : `${durationText(Number(value) * 1_000)} each`,
                }))}
                onPick={(value) => set({ seconds: value === 'none' ? null : Number(value) })}
              />
              . In the order of the exam, because its letters stand on the wall.
            </>
          ) : (
            <>
              ,{' '}
              <PickPiece
                label="Moving about"
                value={rules.onward ? 'onward' : 'anywhere'}
                options={[
                  { value: 'anywhere', says: 'in any order' },
                  { value: 'onward', says: 'onward only' },
                ]}
                onPick={(value) => set({ onward: value === 'onward' })}
              />
              , questions{' '}
              <PickPiece
                label="Order of the questions"
                value={rules.shuffledQuestions ? 'shuffled' : 'same'}
                options={[
                  { value: 'same', says: 'in one order for all' },
                  { value: 'shuffled', says: 'shuffled for each' },
                ]}
                onPick={(value) => set({ shuffledQuestions: value === 'shuffled' })}
              />
              , choices{' '}
              <PickPiece
                label="Order of the choices"
                value={rules.shuffledChoices ? 'shuffled' : 'same'}
                options={[
                  { value: 'same', says: 'as written' },
                  { value: 'shuffled', says: 'shuffled for each' },
                ]}
                onPick={(value) => set({ shuffledChoices: value === 'shuffled' })}
              />
              .
            </>
          )}
        </p>
      )}
      {!begun && (
        <p>
          People come in{' '}
          <PickPiece label="Coming in" value={rules.comingIn} options={ways} onPick={(comingIn) => set({ comingIn })} />
          {rules.comingIn !== 'nameless' && '; whoever is signed in comes in as they are'}.
        </p>
      )}
      <p>
        They learn whether they were right{' '}
        <PickPiece
          label="Learning"
          value={rules.learning}
          options={learnings}
          onPick={(learning) => set({ learning })}
        />
        , and{' '}
        <PickPiece
          label="Score"
          value={rules.score ? 'yes' : 'no'}
          options={[
            { value: 'yes', says: 'see their own score' },
            { value: 'no', says: 'do not see a score' },
          ]}
          onPick={(value) => set({ score: value === 'yes' })}
        />
        .
      </p>
      <p>
        In the gradebook it{' '}
        <PickPiece
          label="Counting"
          value={held.counts}
          options={[
            { value: 'no', says: 'does not count' },
            {
              value: 'score',
              says: 'counts by score',
              whyNot: rules.comingIn === 'nameless' ? 'Nobody knows whose answers they are.' : null,
            },
            {
              value: 'taking-part',
              says: 'counts in full for taking part',
              whyNot: rules.comingIn === 'nameless' ? 'Nobody knows who took part.' : null,
            },
          ]}
          onPick={(counts) => set({ counts })}
        />
        .
        {isLed && (
          <>
            {' '}
            Of a question asked again the{' '}
            <PickPiece
              label="Which answer counts"
              value={rules.vote}
              options={[
                { value: 'last', says: 'last' },
                { value: 'first', says: 'first' },
              ]}
              onPick={(vote) => set({ vote })}
            />{' '}
            answer counts.
          </>
        )}
        {rules.comingIn === 'name' && held.counts !== 'no' && ' A typed name counts once it is matched to the roster.'}
      </p>
    </div>
  );
}

'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { definitionOf, questionTypeNames } from '@/core/question/definitions';
import { type QuestionType, questionTypes } from '@/core/question/types';
import { Meanwhile } from '../keep/Meanwhile';
import { useSettings } from '../keep/useSettings';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import type { Objective } from './model';

type Props = {
  base: string;
  bankName: string;
  points: Partial<Record<QuestionType, number>>;
  objectives: Objective[];
} & Commands<'setUsualPoints' | 'createObjective', 'courseId' | 'bankId'>;

/** What holds for a whole bank: the points that questions of each type begin with, and its objectives. */
export function BankSettings({ base, bankName, points, objectives, setUsualPoints, createObjective }: Props) {
  return (
    <PageFrame width="sheet">
      <PageTitle title={`Points and objectives of ${bankName}`} back={{ href: base, name: bankName }} />
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <Points points={points} setUsualPoints={setUsualPoints} />
        <Objectives objectives={objectives} createObjective={createObjective} />
      </div>
    </PageFrame>
  );
}

const given = (texts: Record<QuestionType, string>) =>
  Object.fromEntries(
    questionTypes.flatMap((type) => {
      const text = texts[type].trim();
      return text === '' ? [] : [[type, numberIn(text)]];
    }),
  );

function Points({ points, setUsualPoints }: Pick<Props, 'points' | 'setUsualPoints'>) {
  const { perform, problems, busy } = usePerform();
  const {
    entered: texts,
    seen,
    clashes,
    change,
    saved,
    isUnfinished,
  } = useSettings(
    'points-by-type',
    'Points by type of a bank',
    Object.fromEntries(
      questionTypes.map((type) => [type, points[type] === undefined ? '' : pointsText(points[type] ?? 0)]),
    ) as Record<QuestionType, string>,
  );
  const [note, setNote] = useState('');
  return (
    <Sheet label="Points by type" className="px-5 py-4">
      <h2 className="text-lg">Points by type</h2>
      <p className="text-sm text-ink-2">
        They hold for every question without points of its own. Empty means the usual ones.
      </p>
      <form
        className="mt-3 grid grid-cols-2 gap-x-4 gap-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          void perform(
            () => setUsualPoints(given(texts), given(seen)),
            () => {
              saved();
              setNote('Saved.');
            },
          );
        }}
      >
        {questionTypes.map((type) => (
          <NumberField
            key={type}
            label={questionTypeNames[type]}
            placeholder={pointsText(definitionOf(type).usualPoints)}
            value={texts[type]}
            onChange={(event) => {
              change({ ...texts, [type]: event.target.value });
              setNote('');
            }}
            problem={problemAt(problems, type)}
          />
        ))}
        <div className="col-span-2">
          <Meanwhile
            places={clashes.map(({ path: [type], theirs }) => ({
              name: questionTypeNames[type as QuestionType],
              theirs: String(theirs || 'the usual ones'),
            }))}
          />
        </div>
        <Problems problems={problemsBesides(problems, questionTypes)} className="col-span-2" />
        <div className="col-span-2 flex items-center gap-3">
          <Button type="submit" look="main" disabled={busy}>
            Save
          </Button>
          <span role="status" className="text-sm text-ink-2">
            {isUnfinished ? 'Not saved yet; kept in this browser.' : note}
          </span>
        </div>
      </form>
    </Sheet>
  );
}

function Objectives({ objectives, createObjective }: Pick<Props, 'objectives' | 'createObjective'>) {
  const { perform, problems, busy } = usePerform();
  const { value, change, done } = useWritten(
    'objective',
    (typed) => (typed.code.trim() || typed.wording.trim() ? 'An objective to be added' : null),
    { code: '', wording: '' },
  );
  const { code, wording } = value;
  return (
    <Sheet label="Objectives" className="px-5 py-4">
      <h2 className="text-lg">Objectives</h2>
      <ul className="mt-2">
        {objectives.map((one) => (
          <li key={one.id} className="grid grid-cols-[4rem_1fr] border-t border-line py-1">
            <span className="font-mono text-sm">{one.code}</span>
            <span>{one.wording}</span>
          </li>
        ))}
        {objectives.length === 0 && (
          <li className="text-ink-2">None yet. Questions are aligned to them on their sheets.</li>
        )}
      </ul>
      <form
        className="mt-3 grid grid-cols-[5rem_1fr_auto] items-start gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void perform(
            () => createObjective({ code, wording }),
            () => done(),
          );
        }}
      >
        <TextField
          label="Code"
          value={code}
          onChange={(event) => change({ code: event.target.value, wording })}
          problem={problemAt(problems, 'code')}
        />
        <TextField
          label="Wording"
          value={wording}
          onChange={(event) => change({ code, wording: event.target.value })}
          problem={problemAt(problems, 'wording')}
        />
        <Button type="submit" className="mt-6" disabled={busy}>
          Add
        </Button>
      </form>
      <Problems problems={problemsBesides(problems, ['code', 'wording'])} />
    </Sheet>
  );
}

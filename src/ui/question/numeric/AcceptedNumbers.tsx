'use client';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Problem } from '@/core/base/result';
import { emptyRich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { type AcceptedNumber, blankAcceptedNumber } from '@/core/question/types/numeric/content';
import { exactOnly } from '@/core/question/types/numeric/exactOnly';
import { readNumber } from '@/core/question/types/numeric/readNumber';
import { matchNumber, type NumberKey, understand } from '@/core/question/types/numeric/score';
import type { Units } from '@/core/question/types/numeric/units';
import { Button, RemoveButton } from '../../kit/Button';
import { SelectField, TextField } from '../../kit/Field';
import { TextButton } from '../../kit/TextButton';
import { contentProblem } from '../editing';
import { NumberText } from '../NumberText';
import { RichEditor } from '../rich/RichEditor';
import { addsText, isText } from '../textOrder';
import { useNewRow } from '../useNewRow';
import { UnitsEditor } from './UnitsEditor';

type Key = { accepted: AcceptedNumber[]; units?: Units };
type Props = {
  value: Key;
  onChange: (value: Key) => void;
  problems: readonly Problem[];
  /** Where the answers stand in the content, for their problems. */
  path: string;
  /** Whether the values may be formulas on variables. */
  formulas: boolean;
  /** The key with the values of a sample paper in it, for the box to try an answer; null while there is none. */
  settled: NumberKey | null;
};

/** The accepted values with their tolerances, the units, and a box to try an answer. */
export function AcceptedNumbers({ value, onChange, problems, path, formulas, settled }: Props) {
  const { accepted } = value;
  const set = (next: AcceptedNumber[]) => onChange({ ...value, accepted: next });
  const change = (at: number, part: Partial<AcceptedNumber>) =>
    set(accepted.map((one, i) => (i === at ? { ...one, ...part } : one)));
  const newRow = useNewRow();
  const add = (at: number) => {
    newRow.expect(at);
    set([...accepted.slice(0, at), blankAcceptedNumber(1), ...accepted.slice(at)]);
  };
  const inPath = (rest: string) => contentProblem(problems, `${path}${rest}`);
  return (
    <div>
      <h3 className="mb-1 font-sans text-sm font-medium">Accepted answers</h3>
      {inPath('accepted') && <p className="mb-1 text-sm text-brick">{inPath('accepted')}</p>}
      <ol className="space-y-3">
        {accepted.map((one, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the rows have no identity besides their place
          <li key={i} ref={newRow.row(i)}>
            <div className="grid grid-cols-[1.6fr_0.8fr_1.3fr_0.7fr_auto] items-start gap-2">
              <TextField
                {...isText}
                label={formulas ? 'Value or formula' : 'Value'}
                value={one.value}
                onChange={(event) => change(i, { value: event.target.value })}
                onKeyDown={(event) => {
                  if (event.key !== 'Enter' || event.ctrlKey || event.metaKey) return;
                  event.preventDefault();
                  add(i + 1);
                }}
                problem={inPath(`accepted.${i}.value`)}
                hint={valueHint(one.value, settled?.accepted[i])}
              />
              <NumberText
                label={one.tolerance.kind === 'significant' ? 'Digits' : 'Tolerance ±'}
                value={one.tolerance.kind === 'relative' ? one.tolerance.amount * 100 : one.tolerance.amount}
                onChange={(amount) =>
                  change(i, {
                    tolerance: { ...one.tolerance, amount: one.tolerance.kind === 'relative' ? amount / 100 : amount },
                  })
                }
                problem={inPath(`accepted.${i}.tolerance`) ?? inPath(`accepted.${i}.tolerance.amount`)}
              />
              <SelectField
                label="given as"
                value={one.tolerance.kind}
                onChange={(event) => {
                  const kind = event.target.value as AcceptedNumber['tolerance']['kind'];
                  if (kind !== one.tolerance.kind)
                    change(i, {
                      tolerance: { kind, amount: amountAs(kind, one) },
                    });
                }}
              >
                <option value="absolute">an amount</option>
                <option value="relative">% of the value</option>
                <option value="significant">significant digits</option>
              </SelectField>
              <NumberText
                label="Credit %"
                value={one.credit * 100}
                onChange={(percent) => change(i, { credit: percent / 100 })}
                problem={inPath(`accepted.${i}.credit`) && '0 to 100'}
              />
              <RemoveButton
                label={`Remove value ${i + 1}`}
                disabled={accepted.length === 1}
                onClick={() => set(accepted.filter((_, at) => at !== i))}
                className="mt-6"
              />
            </div>
            {one.feedback ? (
              <RichEditor
                low
                label={`Feedback for value ${i + 1}`}
                value={one.feedback}
                onChange={(feedback) => change(i, { feedback })}
              />
            ) : (
              <TextButton className="text-sm" onClick={() => change(i, { feedback: emptyRich })}>
                Add feedback for this value
              </TextButton>
            )}
          </li>
        ))}
      </ol>
      <div className="mt-1 flex flex-wrap gap-2">
        <Button look="quiet" {...addsText} title="Enter in a value does the same" onClick={() => add(accepted.length)}>
          <Plus size={15} aria-hidden="true" /> Accept another answer
        </Button>
        {!value.units && (
          <Button
            look="quiet"
            {...addsText}
            onClick={() =>
              onChange({ ...value, units: { list: [{ name: '', factor: 1 }], entry: 'typed', missing: 'refuse' } })
            }
          >
            <Plus size={15} aria-hidden="true" /> Ask for a unit
          </Button>
        )}
      </div>
      {value.units && (
        <UnitsEditor
          units={value.units}
          problems={problems}
          path={path}
          onChange={(units) => onChange({ ...value, units })}
        />
      )}
      <TryNumber settled={settled} />
    </div>
  );
}

/** As wide a tolerance in another measure, where that can be told. */
function amountAs(kind: AcceptedNumber['tolerance']['kind'], { value, tolerance }: AcceptedNumber): number {
  const read = readNumber(value);
  const size = read.ok ? Math.abs(read.value) : 0;
  if (kind === 'significant') return 3;
  const { amount } = tolerance;
  if (tolerance.kind === 'significant' || size === 0 || amount === 0) return kind === 'relative' ? 0.02 : 0;
  return Number((kind === 'relative' ? amount / size : amount * size).toPrecision(6));
}

/** How the value is read, and whether without a tolerance anybody can reach it. */
function valueHint(typed: string, sample: AcceptedNumber | undefined) {
  const warning = sample ? exactOnly(sample) : null;
  const read = heard(typed);
  if (!warning) return read;
  return (
    <>
      {read && <span className="block">{read}</span>}
      <span className="text-saffron">{warning}</span>
    </>
  );
}

const heard = (text: string) => {
  const read = readNumber(text);
  return read.ok && read.readAs !== text.trim() ? `read as ${read.readAs}` : undefined;
};

/** What a student's answer would earn. */
function TryNumber({ settled }: { settled: NumberKey | null }) {
  const [text, setText] = useState('');
  const said = () => {
    if (text.trim() === '') return '';
    if (!settled) return 'It can be tried once the values and formulas can be read.';
    const read = understand(settled, { text });
    if (!read.ok) return `No credit. ${read.message}`;
    const place = matchNumber(settled, { text });
    const match = settled.accepted[place];
    if (!match) return `Read as ${read.readAs}: no credit, it lies outside every tolerance.`;
    return `Read as ${read.readAs}: ${pointsText(match.credit * 100)} %, within the tolerance of ${match.value}.`;
  };
  return (
    <div className="mt-2 flex items-end gap-3 border-t border-line pt-2">
      <TextField
        label="Try an answer"
        className="w-56"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <p className="min-h-9 flex-1 pt-1.5" aria-live="polite">
        {said()}
      </p>
    </div>
  );
}

'use client';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import type { AcceptedNumber, NumericContent } from '@/core/question/types/numeric/content';
import { readNumber } from '@/core/question/types/numeric/readNumber';
import { scoreNumeric } from '@/core/question/types/numeric/score';
import { Button } from '../../kit/Button';
import { SelectField, TextField } from '../../kit/Field';
import { contentProblem, type EditorProps } from '../editing';

/** The accepted values with their tolerances, and a box to try an answer. */
export function NumericEditor({ content, onChange, problems }: EditorProps<NumericContent>) {
  const { accepted } = content;
  const set = (next: AcceptedNumber[]) => onChange({ ...content, accepted: next });
  const change = (at: number, part: Partial<AcceptedNumber>) =>
    set(accepted.map((one, i) => (i === at ? { ...one, ...part } : one)));
  const whole = contentProblem(problems, 'accepted');
  return (
    <div>
      <h3 className="mb-1 font-sans text-sm font-medium">Accepted answers</h3>
      {whole && <p className="mb-1 text-sm text-brick">{whole}</p>}
      <ol className="space-y-3">
        {accepted.map((one, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the rows have no identity besides their place
          <li key={i} className="grid grid-cols-[1.4fr_1fr_1.3fr_1fr_auto] items-start gap-2">
            <TextField
              label="Value"
              value={one.value}
              onChange={(event) => change(i, { value: event.target.value })}
              problem={contentProblem(problems, `accepted.${i}.value`)}
              hint={echo(one.value)}
            />
            <NumberText
              label="Tolerance ±"
              value={one.tolerance.kind === 'relative' ? one.tolerance.amount * 100 : one.tolerance.amount}
              onChange={(amount) =>
                change(i, {
                  tolerance: { ...one.tolerance, amount: one.tolerance.kind === 'relative' ? amount / 100 : amount },
                })
              }
              problem={
                contentProblem(problems, `accepted.${i}.tolerance`) ??
                contentProblem(problems, `accepted.${i}.tolerance.amount`)
              }
            />
            <SelectField
              label="given as"
              value={one.tolerance.kind}
              onChange={(event) => {
                const kind = event.target.value as 'absolute' | 'relative';
                if (kind === one.tolerance.kind) return;
                const amount = kind === 'relative' ? one.tolerance.amount / 100 : one.tolerance.amount * 100;
                change(i, { tolerance: { kind, amount } });
              }}
            >
              <option value="absolute">an amount</option>
              <option value="relative">% of the value</option>
            </SelectField>
            <NumberText
              label="Credit %"
              value={one.credit * 100}
              onChange={(percent) => change(i, { credit: percent / 100 })}
              problem={contentProblem(problems, `accepted.${i}.credit`) && 'Between 0 and 100 %.'}
            />
            <button
              type="button"
              aria-label={`Remove value ${i + 1}`}
              title="Remove"
              disabled={accepted.length === 1}
              onClick={() => set(accepted.filter((_, at) => at !== i))}
              className="mt-6 p-2 text-ink-2 hover:bg-prussian-wash disabled:opacity-40"
            >
              <X size={15} />
            </button>
          </li>
        ))}
      </ol>
      <Button
        look="quiet"
        className="mt-2"
        onClick={() => set([...accepted, { value: '', tolerance: { kind: 'absolute', amount: 0 }, credit: 0.5 }])}
      >
        <Plus size={15} aria-hidden="true" /> Accept another value
      </Button>
      <TryAnswer content={content} />
    </div>
  );
}

const echo = (text: string) => {
  const read = readNumber(text);
  return read.ok && read.readAs !== text.trim() ? `read as ${read.readAs}` : undefined;
};

/** A number field that keeps what is typed while it is not a number yet. */
function NumberText({
  label,
  value,
  onChange,
  problem,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  problem?: string | null;
}) {
  const [text, setText] = useState(pointsish(value));
  const read = readNumber(text);
  const shown = read.ok && Math.abs(read.value - value) < 1e-9 ? text : pointsish(value);
  return (
    <TextField
      label={label}
      inputMode="decimal"
      value={read.ok ? shown : text}
      onChange={(event) => {
        setText(event.target.value);
        const next = readNumber(event.target.value);
        if (next.ok) onChange(next.value);
      }}
      problem={problem ?? (read.ok ? null : 'A number, please.')}
    />
  );
}

const pointsish = (value: number) => String(Number(value.toPrecision(12)));

/** What a student's answer would earn. */
function TryAnswer({ content }: { content: NumericContent }) {
  const [text, setText] = useState('');
  const read = readNumber(text);
  const scored = scoreNumeric(content, { text });
  const credit = scored.kind === 'credit' ? scored.credit : 0;
  return (
    <div className="mt-3 flex items-end gap-3 border-t border-line pt-3">
      <TextField
        label="Try an answer"
        className="w-40"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <p className="min-h-9 flex-1 pt-1.5" aria-live="polite">
        {text.trim() === ''
          ? ''
          : read.ok
            ? `Read as ${read.readAs}: ${credit === 0 ? 'no credit' : `${pointsText(credit * 100)} % of the points`}`
            : read.message}
      </p>
    </div>
  );
}

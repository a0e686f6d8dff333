'use client';
import { useState } from 'react';
import type { ExamDesign } from '@/core/exam/design';
import type { PlanCheck } from '@/core/exam/planCheck';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Tick } from '../kit/Tick';

const usualDistance = 2;
const of100 = (share: number) => (share * 100).toFixed(1).replace(/\.0$/, '');

function fromTo({ lowest, highest }: { lowest: number; highest: number }): string {
  const [from, to] = [of100(lowest), of100(highest)];
  return from === to ? `all at ${to}` : `from ${from} to ${to}`;
}

type Props = {
  design: ExamDesign;
  check: PlanCheck;
  mayChange: boolean;
  onChange: (design: ExamDesign) => void;
};

/** How hard papers are expected to be, and whether they are held equally hard. */
export function HardnessFields({ design, check: { hardness }, mayChange, onChange }: Props) {
  const within = design.equalHardness?.within ?? null;
  const [text, setText] = useState(String(within ?? usualDistance));
  const read = numberIn(text);
  const fits = read >= 0.1 && read <= 50;
  return (
    <section aria-label="How hard papers are" className="mt-3 border-t border-line pt-3">
      {hardness && (
        <p>
          Expected score about <strong>{of100(hardness.target)}</strong> of 100; papers{' '}
          {fromTo(hardness.equal ?? hardness.plain)}
          {hardness.equal && <span className="text-ink-2"> (else {fromTo(hardness.plain)})</span>}.
        </p>
      )}
      <Tick
        on={within !== null}
        disabled={!mayChange}
        onChange={(on) => {
          const { equalHardness: _, ...rest } = design;
          onChange(on ? { ...rest, equalHardness: { within: fits ? read : usualDistance } } : rest);
        }}
      >
        Equally hard papers
      </Tick>
      {within !== null && (
        <NumberField
          label="Allowed difference in points of 100"
          className="mt-1"
          readOnly={!mayChange}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            const next = numberIn(event.target.value);
            if (next >= 0.1 && next <= 50) onChange({ ...design, equalHardness: { within: next } });
          }}
          problem={fits ? null : 'A number from 0.1 to 50.'}
        />
      )}
      {hardness?.limit && hardness.equal && (
        <p className="mt-1 bg-saffron-wash px-2 py-1 text-saffron">
          {hardness.equal.met} of {hardness.equal.of} sample papers come so near.{' '}
          <a className="underline" href={`#line-${hardness.limit.lineId}`}>
            Line {numberOf(design, hardness.limit.lineId)}
          </a>{' '}
          alone moves a paper by up to {of100(hardness.limit.reach)} of 100: give it fewer points, more questions, or
          questions that are more alike.
        </p>
      )}
    </section>
  );
}

function numberOf(design: ExamDesign, lineId: string): string {
  for (const [p, part] of design.parts.entries()) {
    const at = part.lines.findIndex((line) => line.id === lineId);
    if (at >= 0) return `${p + 1}.${at + 1}`;
  }
  return '';
}

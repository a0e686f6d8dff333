'use client';
import { useEffect, useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { courseTotal, displayedTotal, type GradebookCell, totalSaid } from '@/core/gradebook/courseTotal';
import type { Explained } from '@/server/gradebook/gradebook';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Sheet } from '../kit/Page';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';

type Props = {
  /** The address of the course. */
  base: string;
  userId: string;
  name: string;
  onClose: () => void;
} & Commands<'explained', 'courseId'>;

/** How a student's total was computed, step by step in numbers; and what it would be with other numbers. */
export function ExplanationSheet({ base, userId, name, explained, onClose }: Props) {
  const [given, setGiven] = useState<Explained | null>(null);
  const [failed, setFailed] = useState('');
  const [trying, setTrying] = useState(false);
  const [other, setOther] = useState<Record<string, string>>({});
  useEffect(() => {
    let gone = false;
    void explained(userId).then((answer) => {
      if (gone) return;
      if (answer.ok) setGiven(answer.value);
      else setFailed(answer.problems[0]?.message ?? 'This could not be read.');
    });
    return () => {
      gone = true;
    };
  }, [explained, userId]);
  const title = (
    <div className="flex items-baseline justify-between gap-3">
      <h2 className="text-lg">{name}</h2>
      <TextButton onClick={onClose}>Close</TextButton>
    </div>
  );
  if (!given)
    return (
      <Sheet label={`Total of ${name}`} className="px-5 py-4">
        {title}
        <p className={failed ? 'text-brick' : ''}>{failed || 'Computing …'}</p>
      </Sheet>
    );
  const { columns, groups, rules, cells, best } = given.trial;
  const computing = { columns, groups, missing: rules.missing, best: new Map(best) };
  const tried = cells.map((cell, i): GradebookCell => {
    const column = columns[i];
    const text = column && other[column.id];
    const value = text === undefined || text.trim() === '' ? Number.NaN : numberIn(text);
    return column && Number.isFinite(value) ? { kind: 'score', earned: value, possible: column.worth } : cell;
  });
  const total = courseTotal(computing, trying ? tried : cells);
  const shown = displayedTotal(total.percent, rules.bands, rules.decimals);
  const parts = trying ? totalSaid(computing, total) : given.parts;
  return (
    <Sheet label={`Total of ${name}`} className="px-5 py-4">
      {title}
      <p className="mb-2">
        <span className="text-2xl font-medium tabular-nums">{shown.text || '–'} %</span>
        {shown.band && <span className="ml-3 font-serif text-xl">{shown.band.label}</span>}
        {trying && (
          <span className="block text-saffron">
            With other numbers; on record: {given.percent || '–'} %{given.band && `, ${given.band}`}
          </span>
        )}
      </p>
      <p className="mb-2 text-sm">
        <TextLink href={`${base}/gradebook/total/${userId}`}>As the student sees it</TextLink>
      </p>
      <h3 className="font-sans text-sm font-medium">How was this computed?</h3>
      {parts.map((part) => (
        <section key={part.heading} aria-label={part.heading} className="mt-2">
          <h4 className="font-sans text-sm font-medium text-prussian">{part.heading}</h4>
          <ul className="text-sm tabular-nums">
            {part.lines.map((line) => (
              <li key={line} className="border-t border-line py-1">
                {/* A number and its sign stay on one line. */}
                {line.replaceAll(' %', '\u00a0%')}
              </li>
            ))}
          </ul>
        </section>
      ))}
      <div className="mt-4 border-t border-line pt-3">
        {trying ? (
          <>
            <p className="mb-2 text-sm text-ink-2">Nothing of this is kept. A field left empty stays as it is.</p>
            <div className="grid grid-cols-2 gap-2">
              {columns.map((column, i) => {
                const cell = cells[i];
                const now =
                  cell?.kind === 'score' && cell.possible > 0 ? (cell.earned / cell.possible) * column.worth : null;
                return (
                  <NumberField
                    key={column.id}
                    label={`${column.title} (of ${pointsText(column.worth)})`}
                    placeholder={now === null ? '' : pointsText(now)}
                    value={other[column.id] ?? ''}
                    onChange={(event) => setOther({ ...other, [column.id]: event.target.value })}
                  />
                );
              })}
            </div>
            <Button
              className="mt-2"
              onClick={() => {
                setTrying(false);
                setOther({});
              }}
            >
              Back to the record
            </Button>
          </>
        ) : (
          <Button onClick={() => setTrying(true)}>Try other numbers</Button>
        )}
      </div>
    </Sheet>
  );
}

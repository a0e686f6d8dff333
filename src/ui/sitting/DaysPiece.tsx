'use client';
import { useState } from 'react';
import { isCalendarDate } from '@/core/question/types/date/calendarDate';
import { shutDayText } from '@/core/sitting/rulesSaid';
import { Button } from '../kit/Button';
import { SentencePiece } from '../kit/SentencePiece';
import { TextButton } from '../kit/TextButton';
import { WhenField } from '../kit/When';

type Props = { days: readonly string[]; problem: string | null; onSet: (days: string[]) => void };

/** A piece of a sentence that is some days of the calendar; each is picked, and taken out again. */
export function DaysPiece({ days, problem, onSet }: Props) {
  const says = days.length ? `shut on ${days.map(shutDayText).join(', ')}` : 'no day is shut';
  return (
    <>
      <SentencePiece says={says} label={`Days on which it is shut: ${says}`} wrong={problem !== null}>
        {() => <DaysFields days={days} onSet={onSet} />}
      </SentencePiece>
      {problem && <span className="block text-sm leading-normal text-brick">{problem}</span>}
    </>
  );
}

function DaysFields({ days, onSet }: Omit<Props, 'problem'>) {
  const [text, setText] = useState('');
  const add = () => {
    if (!isCalendarDate(text)) return;
    onSet([...new Set([...days, text])].sort());
    setText('');
  };
  return (
    <form
      className="w-80 space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <p className="text-sm text-ink-2">Nobody can start on these days. Whoever is writing goes on.</p>
      <ul>
        {days.map((day) => (
          <li key={day} className="flex items-baseline justify-between gap-3 border-b border-line py-1">
            <span>{shutDayText(day)}</span>
            <TextButton
              className="text-sm"
              aria-label={`Take out: ${shutDayText(day)}`}
              onClick={() => onSet(days.filter((one) => one !== day))}
            >
              Take out
            </TextButton>
          </li>
        ))}
      </ul>
      <div className="flex items-end gap-2">
        <WhenField label="A day" kind="day" className="w-48" value={text} onChange={setText} />
        <Button type="submit" look="main" whyNot={isCalendarDate(text) ? null : 'Give a day.'}>
          Add it
        </Button>
      </div>
    </form>
  );
}

'use client';
import { useState } from 'react';
import type { Arrangement } from '@/core/sitting/rules';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { WhenField } from '../kit/When';

type Props = {
  student: { userId: string; name: string; arrangement: Arrangement };
  zone: string;
  onDone: (said: string) => void;
} & Commands<'makeUp', 'courseId' | 'sittingId'>;

/** Lets a student who could not take a sitting write it later, in the same column: a day, and what goes with it. */
export function MakeUp({ student, zone, makeUp, onDone }: Props) {
  const { perform, problems, busy } = usePerform();
  const [entered, setEntered] = useState({ opens: '', closes: '', entryCode: '' });
  const set = (part: Partial<typeof entered>) => setEntered({ ...entered, ...part });
  const { name, arrangement } = student;
  const give = (input: typeof entered) =>
    void perform(
      () => makeUp(student.userId, input),
      () =>
        onDone(
          input.opens
            ? `${name} writes later and is told. Nothing counts as missing until then.`
            : `Nothing of ${name}’s counts as missing until a day is set.`,
        ),
    );
  const time = [
    arrangement.extraPercent > 0 && `${arrangement.extraPercent} % more time`,
    arrangement.extraMinutes > 0 && `${arrangement.extraMinutes} more minutes`,
  ].filter(Boolean);
  return (
    <form
      aria-label={`Make-up for ${name}`}
      className="space-y-2 border-t border-line bg-paper px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        give(entered);
      }}
    >
      <div className="flex flex-wrap gap-x-3 gap-y-2">
        <WhenField
          label="Writes on"
          autoFocus
          kind="moment"
          zone={zone}
          className="w-60"
          value={entered.opens}
          onChange={(opens) => set({ opens })}
          problem={problemAt(problems, 'opens')}
        />
        <WhenField
          label="Until"
          kind="moment"
          zone={zone}
          className="w-60"
          value={entered.closes}
          onChange={(closes) => set({ closes })}
          hint="empty: as long as the others had"
          problem={problemAt(problems, 'closes')}
        />
        <TextField
          label="Own entry code"
          className="w-40"
          value={entered.entryCode}
          onChange={(event) => set({ entryCode: event.target.value })}
          hint="empty: as set"
          problem={problemAt(problems, 'entryCode')}
        />
      </div>
      <p className="text-sm text-ink-2">
        It stays in the same column{time.length > 0 && `, with ${time.join(' and ')} as arranged`}; what was missed does
        not count as 0 until then.
      </p>
      <Problems problems={problemsBesides(problems, Object.keys(entered))} />
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" look="main" disabled={busy} whyNot={entered.opens ? null : 'Say when.'}>
          Give the make-up
        </Button>
        <Button disabled={busy} onClick={() => give({ opens: '', closes: '', entryCode: '' })}>
          The day is not known yet
        </Button>
      </div>
    </form>
  );
}

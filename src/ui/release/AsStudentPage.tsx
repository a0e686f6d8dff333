'use client';
import { useRouter } from 'next/navigation';
import { type ReactNode, useTransition } from 'react';
import { localFromInstant } from '@/core/base/localTime';
import { type Instant, momentText } from '@/core/base/time';
import type { LookAs } from '@/server/release/asStudent';
import { SelectField } from '../kit/Field';
import { MomentField } from '../kit/MomentField';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { pageWidths } from '../kit/pageWidths';
import { TextButton } from '../kit/TextButton';
import { Tick } from '../kit/Tick';

type Props = {
  here: string;
  back: string;
  whole: LookAs;
  chosen: { userId: string; at: Instant; isNow: boolean; published: boolean };
  now: Instant;
  children: ReactNode;
};

/** A sitting as one student would see it at one moment, on the student's own page. */
export function AsStudentPage({ here, back, whole, chosen, now, children }: Props) {
  const router = useRouter();
  const [busy, start] = useTransition();
  const { timeZone } = whole;
  const go = (change: Partial<{ student: string; at: string; published: boolean }>) => {
    const at = change.at ?? (chosen.isNow ? '' : localFromInstant(chosen.at, timeZone));
    const query = new URLSearchParams({ student: change.student ?? chosen.userId });
    if (at) query.set('at', at);
    if (change.published ?? chosen.published) query.set('published', 'yes');
    start(() => router.replace(`${here}?${query}`, { scroll: false }));
  };
  const student = whole.students.find((one) => one.userId === chosen.userId);
  return (
    <PageFrame>
      <PageTitle
        title="As a student"
        back={{ href: back, name: whole.title }}
        note="What one student sees at one moment"
      />
      {whole.students.length === 0 ? (
        <p>Nobody is given this sitting yet.</p>
      ) : (
        <div className="grid items-start gap-5 lg:grid-cols-[19rem_1fr]">
          <Sheet label="Who and when" className="space-y-3 px-4 py-4">
            <SelectField
              label="Student"
              value={chosen.userId}
              onChange={(event) => go({ student: event.target.value })}
            >
              {whole.students.map((one) => (
                <option key={one.userId} value={one.userId}>
                  {one.name}
                  {one.attempts === 0 ? ' (has not taken it)' : ''}
                </option>
              ))}
            </SelectField>
            <div>
              <p className="mb-1 text-sm font-medium">Moment</p>
              <MomentField
                key={chosen.at}
                label="Moment"
                value={localFromInstant(chosen.at, timeZone)}
                zone={timeZone}
                none="now"
                onSet={(at) => go({ at })}
              />
              <p className="text-sm text-ink-2">by the clock of {timeZone}</p>
            </div>
            <ul className="space-y-1 text-sm" aria-label="Moments worth looking at">
              <li>
                <TextButton onClick={() => go({ at: localFromInstant(now, timeZone) })}>now</TextButton>
              </li>
              {whole.moments.map((one) => (
                <li key={one.at}>
                  <TextButton
                    className="text-left"
                    onClick={() => go({ at: localFromInstant(one.at + 60_000, timeZone) })}
                  >
                    a minute after: {one.label}
                  </TextButton>{' '}
                  <span className="text-ink-2">{momentText(one.at, timeZone)}</span>
                </li>
              ))}
            </ul>
            <Tick on={chosen.published} onChange={(published) => go({ published })}>
              as if all results had been published then
            </Tick>
            <p className="border-t border-line pt-2 text-sm text-ink-2">
              Marks and answers are those of today. For a moment ahead, it is as if nothing more happened until then.
            </p>
          </Sheet>
          <section
            aria-label={`What ${student?.name ?? 'the student'} sees`}
            aria-busy={busy}
            className="border-2 border-dashed border-edge px-5 py-5"
          >
            <p className="mb-3 text-sm text-ink-2">
              {student?.name}, {chosen.isNow ? 'now' : momentText(chosen.at, timeZone)}
              {busy && ' · looking …'}
            </p>
            <div className={`mx-auto ${pageWidths.reading}`}>{children}</div>
          </section>
        </div>
      )}
    </PageFrame>
  );
}

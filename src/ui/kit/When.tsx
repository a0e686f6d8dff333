'use client';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { CalendarDays } from 'lucide-react';
import { type KeyboardEvent, lazy, Suspense, useId, useRef, useState } from 'react';
import { instantFromLocal } from '@/core/base/localTime';
import { momentText } from '@/core/base/time';
import { type Typed, typedDay, typedMoment } from '@/core/base/typedMoment';
import { Field, type FieldProps, inputShape } from './Field';

const Calendar = lazy(() => import('./Calendar'));

export type WhenProps = {
  label: string;
  kind: 'moment' | 'day';
  /** Local to the zone: `2026-12-01T14:30`, or `2026-12-01`; empty for none. */
  value: string;
  /** Of the course; without it the browser's, by whose habit days are typed. */
  zone?: string;
  /** The time of a day where none is typed and none stands there. */
  usualTime?: string;
  autoFocus?: boolean;
};

const browserZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** A day as it is shown everywhere: with its weekday, and the month as a word. */
const dayText = (day: string): string => {
  const at = instantFromLocal(`${day}T12:00`, 'UTC');
  return at === null ? day : momentText(at, 'UTC').replace(/, 12:00$/, '');
};

/** What a field shows for a value; what is no moment stays as it is. */
export function whenText(kind: WhenProps['kind'], value: string, zone: string): string {
  if (value === '') return '';
  if (kind === 'day') return dayText(value);
  const at = instantFromLocal(value, zone);
  return at === null ? value : momentText(at, zone);
}

/** What is being typed into a field for a moment, and what it means so far. */
export function useWhen(
  { kind, value, zone, usualTime = '09:00' }: WhenProps,
  onTake: (value: string) => void,
  onTyping?: (value: string) => void,
) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  /** What stood there when the typing began: a form may take each key, and half a day says nothing of the time. */
  const before = useRef(value);
  const read = (text: string): Typed => {
    if (text.trim() === '') return { ok: true, local: '' };
    const reading = { now: Date.now(), zone: zone ?? browserZone(), before: before.current, usualTime };
    return kind === 'day' ? typedDay(text, reading) : typedMoment(text, reading);
  };
  const take = (local: string) => {
    setTyped(null);
    setWrong(null);
    if (local !== value) onTake(local);
  };
  return {
    typed,
    wrong,
    take,
    type(text: string) {
      if (typed === null) before.current = value;
      const meant = read(text);
      setTyped(text);
      setWrong(null);
      // What is not understood is handed on as it stands: whoever saves it is told, and nothing else is saved instead.
      onTyping?.(meant.ok ? meant.local : text);
    },
    /** Takes what was typed. @returns whether it was understood, or nothing was typed */
    leave(): boolean {
      if (typed === null) return true;
      const meant = read(typed);
      if (meant.ok) take(meant.local);
      else setWrong(meant.why);
      return meant.ok;
    },
    meant: typed === null ? null : read(typed),
  };
}

type InputProps = WhenProps & {
  when: ReturnType<typeof useWhen>;
  given: { id: string; 'aria-invalid'?: true; 'aria-describedby'?: string };
  onEnter: (event: KeyboardEvent<HTMLInputElement>, understood: boolean) => void;
  className?: string;
};

/** The text field of a moment with its calendar, which Alt and the down arrow open; below it how what is typed is understood. */
export function WhenInput({ when, given, onEnter, className = '', ...props }: InputProps) {
  const { label, kind, value, zone, usualTime = '09:00' } = props;
  const calendar = useRef<HTMLButtonElement>(null);
  const { meant } = when;
  return (
    <>
      <span className={`relative inline-block ${className}`}>
        <input
          {...given}
          type="text"
          // biome-ignore lint/a11y/noAutofocus: only what was just opened by an act asks for it
          autoFocus={props.autoFocus}
          autoComplete="off"
          spellCheck={false}
          value={when.typed ?? whenText(kind, value, zone ?? 'UTC')}
          placeholder={kind === 'day' ? 'tue, 1 dec, in 2 weeks' : 'tue 14:30, in 2 weeks'}
          className={`${inputShape} pr-8! placeholder:text-ink-2 placeholder:opacity-70`}
          onFocus={(event) => event.target.select()}
          onChange={(event) => when.type(event.target.value)}
          onBlur={() => void when.leave()}
          onKeyDown={(event) => {
            if (event.key === 'Enter') onEnter(event, when.leave());
            if (event.key === 'ArrowDown' && event.altKey) {
              event.preventDefault();
              calendar.current?.click();
            }
          }}
        />
        <Popover as="span">
          <PopoverButton
            ref={calendar}
            tabIndex={-1}
            aria-label={`Calendar: ${label}`}
            className="absolute top-0 right-0 flex h-full w-8 items-center justify-center text-ink-2 hover:text-prussian"
          >
            <CalendarDays size={16} aria-hidden="true" />
          </PopoverButton>
          <PopoverPanel
            anchor={{ to: 'bottom end', gap: 4 }}
            focus
            className="z-40 border border-edge bg-sheet p-3 shadow-md"
          >
            {({ close }) => (
              <Suspense fallback={<p>…</p>}>
                <Calendar
                  day={value.slice(0, 10)}
                  zone={zone ?? browserZone()}
                  onPick={(day) => {
                    when.take(kind === 'day' ? day : `${day}T${value.slice(11) || usualTime}`);
                    close();
                  }}
                />
              </Suspense>
            )}
          </PopoverPanel>
        </Popover>
      </span>
      {meant?.ok && meant.local !== '' && (
        <span aria-live="polite" className="block text-sm leading-normal text-ink-2">
          {whenText(kind, meant.local, zone ?? 'UTC')}
        </span>
      )}
    </>
  );
}

type WhenFieldProps = Omit<FieldProps, 'label'> & WhenProps & { onChange: (value: string) => void };

/**
 * A field of a form for a moment or a day, typed freely or picked. What is typed counts at once; what is not understood is
 * handed on as it was typed, so that whoever saves it hears of it.
 */
export function WhenField({ hint, problem, quiet, className, onChange, ...props }: WhenFieldProps) {
  const when = useWhen(props, onChange, onChange);
  return (
    <Field {...{ label: props.label, hint, problem: when.wrong ?? problem, quiet, className }}>
      {(given) => (
        <WhenInput
          {...props}
          when={when}
          given={given}
          className="w-full"
          onEnter={(event, understood) => {
            if (!understood) event.preventDefault();
          }}
        />
      )}
    </Field>
  );
}

/** What a field in a line of a sentence needs: its id, and where its problem stands. */
export function useLineField(problem: string | null | undefined) {
  const id = useId();
  return {
    id,
    given: {
      id,
      ...(problem ? { 'aria-invalid': true as const, 'aria-describedby': `${id}-problem` } : {}),
    },
  };
}

'use client';
import { instantFromLocal } from '@/core/base/localTime';
import { momentText, whichOfTwo } from '@/core/base/time';
import { TextButton } from './TextButton';
import { useLineField, useWhen, WhenInput } from './When';

type Props = {
  label: string;
  /** Local to the zone; empty for none. */
  value: string;
  zone: string;
  /** What stands beside the field while it is empty. */
  none: string;
  /** What is offered while it is empty: its words, and the moment. */
  propose?: { says: string; value: () => string };
  usualTime?: string;
  problem?: string | null;
  onSet: (value: string) => void;
};

/**
 * A moment typed in a line of a sentence. It is taken when the field is left or Enter is pressed, so that half a date
 * changes nothing; a time that the clocks skip is refused, and one that comes twice says which of the two it is.
 */
export function MomentField({ label, value, zone, none, propose, usualTime, problem, onSet }: Props) {
  const props = { label, kind: 'moment' as const, value, zone, usualTime };
  const when = useWhen(props, onSet);
  const said = when.wrong ?? problem;
  const { id, given } = useLineField(said);
  const at = value === '' ? null : instantFromLocal(value, zone);
  return (
    <>
      <label htmlFor={id} className="sr-only">
        {label}
      </label>
      <WhenInput
        {...props}
        when={when}
        given={given}
        className="w-60 align-middle leading-normal"
        onEnter={(event) => event.preventDefault()}
      />
      {value === '' && when.typed === null && (
        <span className="text-ink-2">
          {' '}
          ({none}
          {propose && (
            <>
              {'; '}
              <TextButton className="text-sm" onClick={() => when.take(propose.value())}>
                {propose.says}
              </TextButton>
            </>
          )}
          )
        </span>
      )}
      {at !== null && whichOfTwo(at, zone) && <span className="text-saffron"> {momentText(at, zone)}</span>}
      {said && (
        <span id={`${id}-problem`} className="block text-sm leading-normal text-brick">
          {said}
        </span>
      )}
    </>
  );
}

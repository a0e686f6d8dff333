'use client';
import { useEffect, useId, useState } from 'react';
import { isTimeZone, nearZone } from '@/core/base/time';
import { TextField } from './Field';

type Props = {
  label: string;
  hint?: string;
  value: string;
  onChange: (value: string) => void;
  problem?: string | null;
};

/** The time zone of this browser. */
export const ownZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** A time zone, typed or chosen among those this browser knows. Whoever names a place alone gets the zone that is called by it. */
export function TimeZoneField({ label, hint, value, onChange, problem }: Props) {
  const id = useId();
  const [zones, setZones] = useState<string[]>([]);
  useEffect(() => setZones(['UTC', ...Intl.supportedValuesOf('timeZone')]), []);
  return (
    <>
      <TextField
        label={label}
        hint={hint}
        list={id}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        onBlur={() => {
          const near = isTimeZone(value) ? null : nearZone(value);
          if (near) onChange(near);
        }}
        problem={problem}
      />
      <datalist id={id}>
        {zones.map((zone) => (
          <option key={zone} value={zone} />
        ))}
      </datalist>
    </>
  );
}

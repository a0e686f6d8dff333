'use client';
import type { Instant } from '@/core/base/time';
import { inZone } from '@/core/base/time';
import type { Acknowledged, PreflightFinding } from '@/core/sitting/preflight';
import { Button } from '../kit/Button';
import { Sheet } from '../kit/Page';
import { Tick } from '../kit/Tick';

type Props = {
  isDraft: boolean;
  findings: PreflightFinding[];
  acknowledged: Acknowledged[];
  /** The warnings ticked on this page and not sent yet. */
  ticked: readonly string[];
  onTick: (key: string, on: boolean) => void;
  /** Takes one upon oneself at once: for what comes up after scheduling. */
  onAcknowledge: (key: string) => void;
  zone: string;
  mayChange: boolean;
  students: number;
};

/** What stands in the way of a sitting, and what somebody has to take upon themselves, by name. */
export function PreflightList({
  isDraft,
  findings,
  acknowledged,
  ticked,
  onTick,
  onAcknowledge,
  zone,
  mayChange,
  students,
}: Props) {
  const errors = findings.filter((one) => one.kind === 'error');
  const warnings = findings.filter((one) => one.kind === 'warning');
  if (!isDraft && findings.length === 0) return null;
  return (
    <Sheet label="Preflight" className="px-5 py-3">
      <h2 className="text-lg">{isDraft ? 'Before it can be scheduled' : 'To keep an eye on'}</h2>
      {findings.length === 0 && (
        <p className="text-pine">
          Nothing stands in the way. Scheduling tells {students} students by message and pins the exam as it is now.
        </p>
      )}
      {errors.length > 0 && (
        <ul className="list-disc pl-5 text-brick">
          {errors.map((one) => (
            <li key={one.key}>{one.message}</li>
          ))}
        </ul>
      )}
      {warnings.length > 0 && (
        <ul className="mt-2 space-y-2">
          {warnings.map((one) => {
            const taken = acknowledged.find((known) => known.key === one.key);
            return (
              <li key={one.key} className="border-l-2 border-saffron pl-3">
                <p className={taken ? 'text-ink-2' : 'text-saffron'}>{one.message}</p>
                {taken ? (
                  <p className="text-sm text-ink-2">Accepted by {takenSaid(taken.name, taken.at, zone)}.</p>
                ) : (
                  mayChange &&
                  (isDraft ? (
                    <Tick
                      on={ticked.includes(one.key)}
                      onChange={(on) => onTick(one.key, on)}
                      className="py-0.5 text-sm"
                    >
                      I have read this and it is meant so.
                    </Tick>
                  ) : (
                    <Button look="quiet" className="-ml-3" onClick={() => onAcknowledge(one.key)}>
                      I have read this and it is meant so
                    </Button>
                  ))
                )}
              </li>
            );
          })}
        </ul>
      )}
    </Sheet>
  );
}

const takenSaid = (name: string, at: Instant, zone: string) => `${name}, ${inZone(at, zone, 'd MMM HH:mm')}`;

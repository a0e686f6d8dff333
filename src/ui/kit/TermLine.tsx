'use client';
import { useEffect, useRef } from 'react';
import { type Instant, inZone, momentText } from '@/core/base/time';
import type { TermLine as Line } from '@/core/sitting/termLine';
import { Link } from './Link';

type Props = {
  line: Line;
  zone: string;
  now: Instant;
  /** The address below which each sitting has its own. */
  base: string;
};

const rowHeight = 34;
const noTeaching =
  'bg-[repeating-linear-gradient(135deg,var(--color-line)_0_1px,transparent_1px_5px)] border-x border-line';

type Bar = Line['bars'][number];

/** All moments of a sitting in a sentence, for people who hear the page and for whoever rests on it. */
function barSaid({ title, opens, due, closes, results }: Bar, zone: string, now: Instant): string {
  const said = [
    opens !== null && `${opens > now ? 'opens' : 'opened'} ${momentText(opens, zone)}`,
    due !== null && `due ${momentText(due, zone)}`,
    closes === null ? 'never closes' : `${closes > now ? 'closes' : 'closed'} ${momentText(closes, zone)}`,
    results !== null && `results ${results > now ? 'from' : 'since'} ${momentText(results, zone)}`,
  ];
  return `${title}: ${said.filter(Boolean).join(', ')}`;
}

const ink = ({ opens, closes }: Bar, now: Instant): string => {
  if (closes !== null && closes <= now) return 'border-edge bg-edge';
  return opens !== null && opens > now ? 'border-prussian bg-sheet' : 'border-prussian bg-prussian';
};

/**
 * A term on one line: its weeks with their numbers, days without teaching, every sitting with its window, due and results,
 * and the present moment. What lies narrow on it keeps a place that can be pressed.
 */
export function TermLine({ line, zone, now, base }: Props) {
  const { weeks, free, bars, rows } = line;
  const frame = useRef<HTMLElement>(null);
  // Where the line is longer than the screen, now is in sight.
  useEffect(() => {
    const box = frame.current;
    if (box) box.scrollLeft = (line.now / 100) * box.scrollWidth - box.clientWidth / 2;
  }, [line.now]);
  const step = Math.max(1, Math.ceil(weeks.length / 18));
  const hasResults = bars.some((bar) => bar.resultsAt !== null);
  const hasDue = bars.some((bar) => bar.dueAt !== null);
  return (
    <section
      ref={frame}
      aria-label="The term"
      className="mb-5 overflow-x-auto border border-line bg-sheet px-4 pt-2 pb-1"
    >
      <div className="relative min-w-[640px]" style={{ height: 44 + Math.max(1, rows) * rowHeight }}>
        {free.map((one) => (
          <span
            key={`${one.name}${one.from}`}
            aria-hidden="true"
            title={one.name || 'no teaching'}
            className={`absolute inset-y-0 ${noTeaching}`}
            style={{ left: `${one.from}%`, width: `${one.until - one.from}%` }}
          />
        ))}
        <div aria-hidden="true" className="absolute top-[26px] right-0 left-0 h-px bg-ink" />
        {weeks.map((one, i) => (
          <span
            key={one.monday}
            aria-hidden="true"
            className="absolute top-0 flex h-[32px] flex-col justify-between text-xs whitespace-nowrap text-ink-2 tabular-nums"
            style={{ left: `${one.at}%` }}
          >
            <span>
              {i % step === 0 &&
                (one.week === null ? inZone(Date.parse(`${one.monday}T12:00Z`), 'UTC', 'd MMM') : `week ${one.week}`)}
            </span>
            <span className="h-[10px] w-px bg-ink" />
          </span>
        ))}
        <span
          aria-hidden="true"
          className="absolute top-[20px] bottom-0 w-0.5 bg-brick"
          style={{ left: `${line.now}%` }}
        />
        <ol>
          {bars.map((bar) => {
            const said = barSaid(bar, zone, now);
            const width = Math.max(0, bar.until - bar.from);
            return (
              <li key={bar.id}>
                <Link
                  href={`${base}/${bar.id}`}
                  aria-label={said}
                  title={said}
                  className="group absolute block"
                  style={{
                    top: 38 + bar.row * rowHeight,
                    height: rowHeight - 4,
                    left: `${bar.from}%`,
                    width: `max(10px, ${width}%)`,
                  }}
                >
                  <span className={`block h-[9px] min-w-[10px] border-2 ${ink(bar, now)}`} />
                  <span
                    className={`absolute top-[10px] bg-sheet pr-1 text-sm leading-tight whitespace-nowrap group-hover:underline ${bar.endsLabel ? 'right-0' : 'left-0'}`}
                  >
                    {bar.title}
                  </span>
                </Link>
                {bar.dueAt !== null && (
                  <span
                    aria-hidden="true"
                    className="absolute w-0.5 bg-saffron"
                    style={{ top: 34 + bar.row * rowHeight, height: 17, left: `${bar.dueAt}%` }}
                  />
                )}
                {bar.resultsAt !== null && (
                  <span
                    aria-hidden="true"
                    className="absolute -ml-1 size-[9px] rounded-full bg-pine"
                    style={{ top: 38 + bar.row * rowHeight, left: `${bar.resultsAt}%` }}
                  />
                )}
              </li>
            );
          })}
        </ol>
        {bars.length === 0 && <p className="absolute top-[40px] text-ink-2">Nothing is scheduled yet.</p>}
      </div>
      <p className="sticky left-0 flex w-fit flex-wrap gap-x-4 text-xs text-ink-2" aria-hidden="true">
        <span>
          <span className="mr-1 inline-block h-3 w-0.5 bg-brick align-middle" /> now, {momentText(now, zone)}
        </span>
        {hasDue && (
          <span>
            <span className="mr-1 inline-block h-3 w-0.5 bg-saffron align-middle" /> due
          </span>
        )}
        {hasResults && (
          <span>
            <span className="mr-1 inline-block size-2 rounded-full bg-pine align-middle" /> results
          </span>
        )}
        {free.length > 0 && (
          <span>
            <span className={`mr-1 inline-block h-3 w-4 align-middle ${noTeaching}`} /> no teaching
            {free.some((one) => one.name) && `: ${free.flatMap((one) => one.name || []).join(', ')}`}
          </span>
        )}
      </p>
    </section>
  );
}

import { type Instant, inZone } from '@/core/base/time';

type TimelinePoint = { at: Instant; label: string };

const frame = 'relative mx-2 h-[92px] text-sm';

/**
 * One horizontal line for everything that has a when: points in their order at their distances, as far as labels leave
 * room, with the present moment marked. Without points the line takes the same room, so that nothing below it moves when
 * the first comes, and says what would stand on it.
 */
export function Timeline({
  points,
  now,
  zone,
  none,
}: {
  points: TimelinePoint[];
  now: Instant;
  zone: string;
  none: string;
}) {
  const ordered = [...points].sort((a, b) => a.at - b.at);
  const [first, last] = [ordered[0], ordered.at(-1)];
  if (!first || !last)
    return (
      <div className={frame}>
        <div className="absolute top-[44px] right-0 left-0 h-px bg-line" />
        <p className="absolute top-[52px] text-base text-ink-2">{none}</p>
      </div>
    );
  const from = Math.min(first.at, now);
  const span = Math.max(Math.max(last.at, now) - from, 1);
  const spots = spread(ordered.map((point) => ((point.at - from) / span) * 100));
  const today = ((now - from) / span) * 100;
  return (
    <figure className={frame} aria-label="Timeline">
      <div className="absolute top-[44px] right-0 left-0 h-px bg-ink" />
      <div className="absolute top-[44px] left-0 h-[3px] bg-prussian" style={{ width: `${today}%` }} />
      {ordered.map((point, i) => {
        const spot = spots[i] as number;
        const side =
          spot < 12 ? 'items-start' : spot > 88 ? 'items-end -translate-x-full' : 'items-center -translate-x-1/2';
        return (
          <div
            key={`${point.label}${point.at}`}
            className={`absolute top-[18px] flex flex-col ${side}`}
            style={{ left: `${spot}%` }}
          >
            <span className="font-medium whitespace-nowrap">{point.label}</span>
            <span className="my-[2px] h-[12px] w-px bg-ink" />
            <span className="whitespace-nowrap text-ink-2 tabular-nums">
              {inZone(point.at, zone, 'EEE d MMM, HH:mm')}
            </span>
          </div>
        );
      })}
      <span
        className="absolute top-0 text-[11px] whitespace-nowrap text-prussian"
        style={{ left: `${Math.min(today, 97)}%`, transform: today > 50 ? 'translateX(-100%)' : undefined }}
      >
        now {inZone(now, zone, 'd MMM HH:mm')}
      </span>
    </figure>
  );
}

/** Moves spots apart so that labels do not lie over one another: at least 17 % of the width between two. */
function spread(spots: number[]): number[] {
  const least = Math.min(17, 100 / Math.max(1, spots.length - 1));
  const moved = [...spots];
  for (let i = 1; i < moved.length; i++) moved[i] = Math.max(moved[i] as number, (moved[i - 1] as number) + least);
  const over = (moved.at(-1) ?? 0) - 100;
  if (over > 0) {
    moved[moved.length - 1] = 100;
    for (let i = moved.length - 2; i >= 0; i--)
      moved[i] = Math.min(moved[i] as number, (moved[i + 1] as number) - least);
  }
  return moved;
}

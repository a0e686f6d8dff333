'use client';
import { type KeyboardEvent, useRef } from 'react';
import { type Stroke, strokeText } from '@/core/attempt/strokes';

type Props = {
  strokes: readonly Stroke[];
  /** Makes the ruler walkable: each stroke is a button, reached with the arrow keys. */
  onPick?: (number: number) => void;
  /** `line` fits into a line of text, `page` is as wide as the page allows and carries numbers and part names. */
  size?: 'line' | 'page';
  label: string;
  /** Whether every fifth stroke carries its number; without, the names of the parts say where one is. */
  numbered?: boolean;
  /** What is said of a stroke, where it is no question of a paper. */
  say?: (stroke: Stroke) => string;
};

/**
 * A paper drawn as one continuous ruler: a stroke for each question. Short and thin while empty, full height once
 * answered, a hook to the left to come back to, a caret above the current one, a small cross-bar where a mark by hand is
 * awaited, a filled head for right, a hollow one for wrong. Colour only repeats what the form says.
 */
export function PaperRuler({ strokes, onPick, size = 'page', label, numbered = true, say = strokeText }: Props) {
  const bar = useRef<HTMLDivElement>(null);
  const parts = inParts(strokes);
  const walk = (event: KeyboardEvent, index: number) => {
    const to = { ArrowRight: index + 1, ArrowLeft: index - 1, Home: 0, End: strokes.length - 1 }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    bar.current?.querySelectorAll<HTMLButtonElement>('button')[to]?.focus();
  };
  const focusable = Math.max(
    0,
    strokes.findIndex((stroke) => stroke.current),
  );
  let index = -1;
  return (
    // biome-ignore lint/a11y/useAriaPropsSupportedByRole: both roles take a label
    <div
      ref={bar}
      role={onPick ? 'group' : 'img'}
      aria-label={onPick ? label : `${label}: ${summary(strokes)}`}
      className={size === 'line' ? 'inline-flex gap-1.5 align-middle' : 'flex flex-wrap gap-x-4 gap-y-2'}
    >
      {parts.map((part) => (
        <div key={part.strokes[0]?.number} className="min-w-0">
          <div className={size === 'page' ? 'flex flex-wrap gap-y-1' : 'flex'}>
            {inFives(part.strokes).map((five) => (
              <div key={five[0]?.number}>
                <div className="flex border-b border-ink">
                  {five.map((stroke) => {
                    index += 1;
                    const own = index;
                    return onPick ? (
                      <button
                        key={stroke.number}
                        type="button"
                        tabIndex={own === focusable ? 0 : -1}
                        aria-current={stroke.current ? 'true' : undefined}
                        title={say(stroke)}
                        onClick={() => onPick(stroke.number)}
                        onKeyDown={(event) => walk(event, own)}
                        className="hover:bg-prussian-wash"
                      >
                        <Drawn stroke={stroke} size={size} />
                      </button>
                    ) : (
                      <Drawn key={stroke.number} stroke={stroke} size={size} />
                    );
                  })}
                </div>
                {size === 'page' && numbered && (
                  <div className="flex text-[11px] leading-4 text-ink-2 tabular-nums" aria-hidden="true">
                    {five.map((stroke) => (
                      <span key={stroke.number} className="w-[18px] text-center">
                        {stroke.number % 5 === 0 || stroke.number === 1 ? stroke.number : ''}
                      </span>
                    ))}
                  </div>
                )}
              </div>
            ))}
          </div>
          {size === 'page' && parts.length > 1 && (
            <div className="truncate text-[11px] leading-4 text-ink-2">{part.title}</div>
          )}
        </div>
      ))}
    </div>
  );
}

const summary = (strokes: readonly Stroke[]) => {
  const count = (is: (stroke: Stroke) => boolean | undefined) => strokes.filter(is).length;
  const said = [`${count((stroke) => stroke.answered)} of ${strokes.length} answered`];
  const right = count((stroke) => stroke.outcome === 'right');
  const waiting = count((stroke) => stroke.awaitsMark);
  if (right) said.push(`${right} right`);
  if (waiting) said.push(`${waiting} waiting for a mark`);
  return said.join(', ');
};

/** A long part goes on in the next row: it breaks only behind every fifth question. */
function inFives(strokes: readonly Stroke[]): Stroke[][] {
  const fives: Stroke[][] = [];
  for (const stroke of strokes) {
    const last = fives.at(-1);
    if (!last || stroke.number % 5 === 1) fives.push([stroke]);
    else last.push(stroke);
  }
  return fives;
}

function inParts(strokes: readonly Stroke[]): { title: string; strokes: Stroke[] }[] {
  const parts: { title: string; strokes: Stroke[] }[] = [];
  for (const stroke of strokes) {
    const last = parts.at(-1);
    if (last && last.title === stroke.partTitle) last.strokes.push(stroke);
    else parts.push({ title: stroke.partTitle, strokes: [stroke] });
  }
  return parts;
}

/** One stroke, drawn in a cell of 18 by 34 (page) or 7 by 18 (line). */
function Drawn({ stroke, size }: { stroke: Stroke; size: 'line' | 'page' }) {
  const [width, height] = size === 'page' ? [18, 34] : [7, 18];
  const middle = width / 2;
  const top = stroke.answered ? height * 0.3 : height * 0.74;
  const head = size === 'page' ? 3.6 : 2.1;
  const ink = stroke.awaitsMark
    ? 'stroke-plum'
    : stroke.outcome === 'right'
      ? 'stroke-pine'
      : stroke.outcome === 'wrong'
        ? 'stroke-brick'
        : stroke.outcome === 'partly'
          ? 'stroke-saffron'
          : stroke.answered
            ? 'stroke-ink'
            : 'stroke-edge';
  const fill =
    stroke.outcome === 'right' ? 'fill-pine' : stroke.outcome === 'partly' ? 'fill-saffron-wash' : 'fill-sheet';
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      className={`block fill-none ${ink}`}
      aria-hidden="true"
    >
      <line
        x1={middle}
        y1={height}
        x2={middle}
        y2={top}
        strokeWidth={stroke.answered ? (size === 'page' ? 2.6 : 1.8) : 1.2}
      />
      {stroke.comeBack && <path d={`M${middle} ${top} q -1 -5 -6 -3`} strokeWidth={2} className="stroke-saffron" />}
      {stroke.awaitsMark && (
        <line x1={middle - head} x2={middle + head} y1={height * 0.58} y2={height * 0.58} strokeWidth={1.8} />
      )}
      {stroke.outcome && <circle cx={middle} cy={top} r={head} strokeWidth={1.4} className={fill} />}
      {stroke.outcome === 'partly' && (
        <path
          d={`M${middle - head} ${top} a ${head} ${head} 0 0 0 ${head * 2} 0 z`}
          className="fill-saffron"
          strokeWidth={0}
        />
      )}
      {stroke.current && (
        <path d={`M${middle - 5} 1 h10 l-5 6 z`} className="fill-prussian stroke-prussian" strokeWidth={0.5} />
      )}
    </svg>
  );
}

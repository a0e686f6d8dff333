'use client';
import { type KeyboardEvent, useRef } from 'react';
import { type QuestionSign, signText } from '@/core/attempt/paperRuler';

type Props = {
  signs: readonly QuestionSign[];
  /** Makes the ruler walkable: each sign is a button, reached with the arrow keys. */
  onPick?: (number: number) => void;
  /** `line` fits into a line of text, `page` is as wide as the page allows and carries numbers and part names. */
  size?: 'line' | 'page';
  label: string;
  /** Whether every fifth sign carries its number; without, the names of the parts say where one is. */
  numbered?: boolean;
  /** What is said of a sign, where it is no question of a paper. */
  say?: (sign: QuestionSign) => string;
};

/**
 * A paper drawn as one continuous ruler: a sign for each question. Short and thin while empty, full height once
 * answered, a hook to the left to come back to, a caret above the current one, a small cross-bar where a mark by hand is
 * awaited, a small square at its foot where something was corrected, a filled head for right, a hollow one for wrong. Colour only repeats what the form says.
 */
export function PaperRuler({ signs, onPick, size = 'page', label, numbered = true, say = signText }: Props) {
  const bar = useRef<HTMLDivElement>(null);
  const parts = inParts(signs);
  const walk = (event: KeyboardEvent, index: number) => {
    const to = { ArrowRight: index + 1, ArrowLeft: index - 1, Home: 0, End: signs.length - 1 }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    bar.current?.querySelectorAll<HTMLButtonElement>('button')[to]?.focus();
  };
  const focusable = Math.max(
    0,
    signs.findIndex((sign) => sign.current),
  );
  let index = -1;
  return (
    // biome-ignore lint/a11y/useAriaPropsSupportedByRole: both roles take a label
    <div
      ref={bar}
      role={onPick ? 'group' : 'img'}
      aria-label={onPick ? label : `${label}: ${summary(signs)}`}
      className={size === 'line' ? 'inline-flex gap-1.5 align-middle' : 'flex flex-wrap gap-x-4 gap-y-2'}
    >
      {parts.map((part) => (
        <div key={part.signs[0]?.number} className="min-w-0">
          <div className={size === 'page' ? 'flex flex-wrap gap-y-1' : 'flex'}>
            {inFives(part.signs).map((five) => (
              <div key={five[0]?.number}>
                <div className="flex border-b border-ink">
                  {five.map((sign) => {
                    index += 1;
                    const own = index;
                    return onPick ? (
                      <button
                        key={sign.number}
                        type="button"
                        tabIndex={own === focusable ? 0 : -1}
                        aria-current={sign.current ? 'true' : undefined}
                        title={say(sign)}
                        onClick={() => onPick(sign.number)}
                        onKeyDown={(event) => walk(event, own)}
                        className="hover:bg-prussian-wash"
                      >
                        <Drawn sign={sign} size={size} />
                      </button>
                    ) : (
                      <Drawn key={sign.number} sign={sign} size={size} />
                    );
                  })}
                </div>
                {size === 'page' && numbered && (
                  <div className="flex text-[11px] leading-4 text-ink-2 tabular-nums" aria-hidden="true">
                    {five.map((sign) => (
                      <span key={sign.number} className="w-[18px] text-center">
                        {sign.number % 5 === 0 || sign.number === 1 ? sign.number : ''}
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

const summary = (signs: readonly QuestionSign[]) => {
  const count = (is: (sign: QuestionSign) => boolean | undefined) => signs.filter(is).length;
  const said = [`${count((sign) => sign.answered)} of ${signs.length} answered`];
  const right = count((sign) => sign.outcome === 'right');
  const waiting = count((sign) => sign.awaitsMark);
  if (right) said.push(`${right} right`);
  if (waiting) said.push(`${waiting} waiting for a mark`);
  return said.join(', ');
};

/** A long part goes on in the next row: it breaks only behind every fifth question. */
function inFives(signs: readonly QuestionSign[]): QuestionSign[][] {
  const fives: QuestionSign[][] = [];
  for (const sign of signs) {
    const last = fives.at(-1);
    if (!last || sign.number % 5 === 1) fives.push([sign]);
    else last.push(sign);
  }
  return fives;
}

function inParts(signs: readonly QuestionSign[]): { title: string; signs: QuestionSign[] }[] {
  const parts: { title: string; signs: QuestionSign[] }[] = [];
  for (const sign of signs) {
    const last = parts.at(-1);
    if (last && last.title === sign.partTitle) last.signs.push(sign);
    else parts.push({ title: sign.partTitle, signs: [sign] });
  }
  return parts;
}

/** One sign, drawn in a cell of 18 by 34 (page) or 7 by 18 (line). */
function Drawn({ sign, size }: { sign: QuestionSign; size: 'line' | 'page' }) {
  const [width, height] = size === 'page' ? [18, 34] : [7, 18];
  const middle = width / 2;
  const top = sign.answered ? height * 0.3 : height * 0.74;
  const head = size === 'page' ? 3.6 : 2.1;
  const ink = sign.awaitsMark
    ? 'stroke-plum'
    : sign.outcome === 'right'
      ? 'stroke-pine'
      : sign.outcome === 'wrong'
        ? 'stroke-brick'
        : sign.outcome === 'partly'
          ? 'stroke-saffron'
          : sign.answered
            ? 'stroke-ink'
            : 'stroke-edge';
  const fill = sign.outcome === 'right' ? 'fill-pine' : sign.outcome === 'partly' ? 'fill-saffron-wash' : 'fill-sheet';
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
        strokeWidth={sign.answered ? (size === 'page' ? 2.6 : 1.8) : 1.2}
      />
      {sign.corrected && (
        <rect
          x={middle + 2.5}
          y={height - 7}
          width={5}
          height={5}
          className="fill-saffron stroke-saffron"
          strokeWidth={0.5}
        />
      )}
      {sign.comeBack && <path d={`M${middle} ${top} q -1 -5 -6 -3`} strokeWidth={2} className="stroke-saffron" />}
      {sign.awaitsMark && (
        <line x1={middle - head} x2={middle + head} y1={height * 0.58} y2={height * 0.58} strokeWidth={1.8} />
      )}
      {sign.outcome && <circle cx={middle} cy={top} r={head} strokeWidth={1.4} className={fill} />}
      {sign.outcome === 'partly' && (
        <path
          d={`M${middle - head} ${top} a ${head} ${head} 0 0 0 ${head * 2} 0 z`}
          className="fill-saffron"
          strokeWidth={0}
        />
      )}
      {sign.current && (
        <path d={`M${middle - 5} 1 h10 l-5 6 z`} className="fill-prussian stroke-prussian" strokeWidth={0.5} />
      )}
    </svg>
  );
}

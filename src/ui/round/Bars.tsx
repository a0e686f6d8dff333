import { counted } from '@/core/base/words';
import type { Movement, QuestionBars } from '@/core/round/bars';
import { RichText } from '../kit/RichText';

const outcomes = {
  right: { mark: '●', said: 'right', ink: 'text-pine' },
  partly: { mark: '◐', said: 'partly right', ink: 'text-pine' },
  wrong: { mark: '', said: '', ink: '' },
};

type Props = {
  votes: readonly QuestionBars[];
  /** For a wall, which is read from ten metres away. */
  large?: boolean;
  /** Whether the words of the choices stand beside their bars. */
  withWords?: boolean;
};

/**
 * How a class answered: level bars of one colour with their number at the end. Asked again, both votes stand side by side,
 * the first one hollow. What is right has a head and the word.
 */
export function Bars({ votes, large = false, withWords = true }: Props) {
  const last = votes.at(-1);
  if (!last) return null;
  const most = Math.max(1, ...votes.flatMap((vote) => vote.bars.map((bar) => bar.count)));
  return (
    <div className={large ? 'text-[3.8vmin] leading-snug' : 'text-base'}>
      <table className="w-full border-separate border-spacing-y-2">
        <thead className="sr-only">
          <tr>
            <th>Answer</th>
            <th>How many</th>
          </tr>
        </thead>
        <tbody>
          {rowsOf(votes).map(({ key, bar, counts }) => {
            const outcome = bar.outcome ? outcomes[bar.outcome] : null;
            return (
              <tr key={key} className="align-top">
                <th
                  scope="row"
                  className={`pr-3 text-left font-normal ${withWords ? 'w-2/5' : 'w-12'} ${outcome?.said ? 'font-medium' : ''}`}
                >
                  <span className="flex gap-2">
                    {bar.label && <span className="font-medium">{bar.label}</span>}
                    {withWords &&
                      (bar.rich ? (
                        <RichText rich={bar.rich} className={large ? '[&_*]:text-[length:inherit]' : ''} />
                      ) : (
                        <span>{bar.text}</span>
                      ))}
                  </span>
                </th>
                <td>
                  {counts.map((count, i) => (
                    <span
                      // biome-ignore lint/suspicious/noArrayIndexKey: votes stand in their order for good
                      key={i}
                      className="flex items-center gap-2"
                    >
                      <span
                        aria-hidden="true"
                        className={`block ${large ? 'h-[4vmin]' : 'h-4'} ${i < counts.length - 1 ? 'border border-prussian bg-prussian-wash' : 'bg-prussian'}`}
                        style={{ width: `${(count / most) * 72}%`, minWidth: count > 0 ? 3 : 1 }}
                      />
                      <span className="tabular-nums">
                        {counts.length > 1 && <span className="sr-only">{i === 0 ? 'first: ' : 'again: '}</span>}
                        {count}
                      </span>
                      {i === counts.length - 1 && outcome?.said && (
                        <span className={`font-medium whitespace-nowrap ${outcome.ink}`}>
                          <span aria-hidden="true">{outcome.mark} </span>
                          {outcome.said}
                        </span>
                      )}
                    </span>
                  ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className={`text-ink-2 ${large ? 'text-[3vmin]' : ''}`}>
        {[
          // Beside a wall's bars it stands above them already.
          large ? '' : `${last.answered} of ${last.asked} answered`,
          last.others > 0 ? counted(last.others, 'other answer') : '',
          votes.length > 1 ? 'the hollow bars are the first time' : '',
        ]
          .filter(Boolean)
          .join('; ')}
      </p>
    </div>
  );
}

/** One row for each answer of either vote, the last vote's first. */
function rowsOf(votes: readonly QuestionBars[]) {
  const last = votes.at(-1)?.bars ?? [];
  const keyOf = (bar: QuestionBars['bars'][number]) =>
    bar.rich ? `${bar.label}|${JSON.stringify(bar.rich)}` : bar.text;
  const keys = new Set(last.map(keyOf));
  const before = votes.slice(0, -1).flatMap((vote) => vote.bars.filter((bar) => !keys.has(keyOf(bar))));
  return [...last, ...before].map((bar) => ({
    key: keyOf(bar),
    bar,
    counts: votes.map((vote) => vote.bars.find((one) => keyOf(one) === keyOf(bar))?.count ?? 0),
  }));
}

/** Who changed from what to what, in numbers. */
export function MovementSaid({ movement, large = false }: { movement: Movement; large?: boolean }) {
  const { stayed, moved } = movement;
  const all = stayed + moved.reduce((sum, one) => sum + one.count, 0);
  if (all === 0) return null;
  return (
    <p className={large ? 'text-[3.4vmin] leading-snug' : 'text-base'}>
      {stayed} of {all} stayed with their answer
      {moved.length > 0 && ': '}
      {moved
        .slice(0, large ? 3 : 6)
        .map(({ from, to, count }) => `${count} went from ${from} to ${to}`)
        .join(', ')}
      .
    </p>
  );
}

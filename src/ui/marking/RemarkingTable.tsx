import { pointsText } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { RemarkingPreview } from '@/server/marking/remarking';
import { State } from '../kit/Page';
import { RowTable, tableRow } from '../kit/RowTable';

const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;
const result = ({ earned, possible }: { earned: number; possible: number }) =>
  `${pointsText(earned)} of ${pointsText(possible)}`;
export const shareOf = ({ earned, possible }: { earned: number; possible: number }) =>
  possible > 0 ? earned / possible : 0;

/** Whether somebody gains or loses, and how much of the points; a share too small to be shown stays. */
export function Gain({ gain }: { gain: number }) {
  const shown = percent(Math.abs(gain));
  if (shown === '0 %') return <State ink="plain">stays</State>;
  return (
    <State ink={gain < 0 ? 'wrong' : 'done'}>
      {gain < 0 ? 'loses' : 'gains'} {shown}
    </State>
  );
}

/** Who would gain or lose what by a re-mark, and what that makes of each sitting. */
export function RemarkingTable({ preview }: { preview: RemarkingPreview }) {
  const { results, sittings, answers, changing, byPerson } = preview;
  const titles = new Map(sittings.map((one) => [one.sittingId, one.title]));
  const published = results.filter((one) => one.published).length;
  return (
    <div className="space-y-3">
      <p>
        {counted(answers, 'answer')} looked at:{' '}
        {changing === 0 ? 'none changes' : `${counted(changing, 'answer')} would earn otherwise`}.{' '}
        {byPerson > 0 &&
          `${counted(byPerson, 'mark')} given by hand or adjusted ${byPerson === 1 ? 'stays as it is' : 'stay as they are'}. `}
        {results.length > 0 &&
          `${counted(results.length, 'result')} would differ${published > 0 ? `, ${published} of them published: ${published === 1 ? 'it stays' : 'they stay'} as ${published === 1 ? 'it was' : 'they were'} and ${published === 1 ? 'is' : 'are'} flagged until you publish the change` : ''}.`}
      </p>
      {sittings.map((one) => (
        <div key={one.sittingId} className="border border-line px-4 py-2">
          <p>
            <span className="font-medium">{one.title}</span>: mean {percent(one.meanBefore)} → {percent(one.meanAfter)},{' '}
            {counted(one.results, 'result')}
          </p>
          <table className="mt-1 text-sm tabular-nums" aria-label={`Results of ${one.title} by tenths of the points`}>
            <thead>
              <tr className="text-ink-2">
                <th className="pr-3 text-left font-normal">from … % of the points</th>
                {one.tenthsBefore.map((_, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a tenth is its place
                  <th key={i} className="w-10 text-right font-normal">
                    {i * 10}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {(['tenthsBefore', 'tenthsAfter'] as const).map((when) => (
                <tr key={when}>
                  <th className="pr-3 text-left font-normal text-ink-2">{when === 'tenthsBefore' ? 'now' : 'then'}</th>
                  {one[when].map((n, i) => (
                    <td
                      // biome-ignore lint/suspicious/noArrayIndexKey: a tenth is its place
                      key={i}
                      className={`text-right ${one.tenthsBefore[i] !== one.tenthsAfter[i] ? 'font-medium text-saffron' : ''}`}
                    >
                      {n || '·'}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ))}
      {results.length > 0 && (
        <RowTable
          label="Results that would differ"
          columns={[
            { key: 'name', name: 'Student' },
            { key: 'sitting', name: 'Sitting' },
            { key: 'now', name: 'Now', right: true },
            { key: 'then', name: 'Then', right: true },
            { key: 'change', name: 'Difference', right: true },
            { key: 'published', name: 'Published' },
          ]}
          rows={results}
        >
          {(one) => {
            const gain = shareOf(one.after) - shareOf(one.before);
            return (
              <tr key={`${one.sittingId}/${one.userId}`} className={tableRow}>
                <td>{one.name}</td>
                <td className="text-ink-2">{titles.get(one.sittingId)}</td>
                <td className="text-right tabular-nums">{result(one.before)}</td>
                <td className="text-right tabular-nums">{result(one.after)}</td>
                <td className="text-right tabular-nums">
                  <Gain gain={gain} />
                </td>
                <td>{one.published && <State ink="waits">will be flagged</State>}</td>
              </tr>
            );
          }}
        </RowTable>
      )}
    </div>
  );
}

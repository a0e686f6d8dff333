import { pointsText } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { OpenQuestion } from './model';

const date = (at: number) =>
  new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** Where a question has stood, how it went, and how it changed from version to version. */
export function UsagePanel({ question: { usage, versions } }: { question: OpenQuestion }) {
  return (
    <details className="border-t border-line pt-3">
      <summary className="text-sm font-medium text-prussian">
        {usage
          ? `On ${counted(usage.drawn, 'paper')}${usage.success ? `, success rate ${pointsText(usage.success.mean * 100)} % of ${usage.success.n} first attempts` : ''}`
          : 'Not used yet'}
        {versions.length > 1 && `, ${versions.length} versions`}
      </summary>
      {usage && (
        <table className="mt-2 w-full text-sm">
          <thead>
            <tr className="border-b border-line text-left text-ink-2">
              <th className="font-normal">Sitting</th>
              <th className="font-normal">Exam</th>
              <th className="font-normal">Last drawn</th>
              <th className="text-right font-normal">Papers</th>
            </tr>
          </thead>
          <tbody>
            {usage.sittings.map((one) => (
              <tr key={`${one.title}${one.at}`} className="border-b border-line">
                <td className="py-1 pr-2">{one.title}</td>
                <td className="py-1 pr-2">{one.exam}</td>
                <td className="py-1 pr-2 whitespace-nowrap">{date(one.at)}</td>
                <td className="py-1 text-right">{one.drawn}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <ol className="mt-2 text-sm">
        {versions.map((version) => (
          <li key={version.number}>
            Version {version.number}, {date(version.createdAt)}
            {version.changed.length > 0 && `: changed ${version.changed.join(', ')}`}
            {version.frozen && <span className="text-ink-2">; stands on papers</span>}
          </li>
        ))}
      </ol>
    </details>
  );
}

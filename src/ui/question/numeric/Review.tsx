import { pointsText } from '@/core/base/rounding';
import type { NumericContent } from '@/core/question/types/numeric/content';

/** The accepted values in words. For those who may see the key. */
export function NumericReview({ content }: { content: NumericContent }) {
  return (
    <ul className="bg-pine-wash px-2 py-1">
      {content.accepted.map((accepted) => (
        <li key={`${accepted.value}/${accepted.credit}`}>
          Right: <strong>{accepted.value}</strong>{' '}
          {accepted.tolerance.amount > 0 &&
            (accepted.tolerance.kind === 'relative'
              ? `± ${pointsText(accepted.tolerance.amount * 100)} %`
              : `± ${accepted.tolerance.amount}`)}
          {accepted.credit < 1 && ` for ${pointsText(accepted.credit * 100)} % of the points`}
        </li>
      ))}
    </ul>
  );
}

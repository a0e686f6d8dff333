import { pointsText } from '@/core/base/rounding';
import { oneOrMany } from '@/core/base/words';
import type { AcceptedNumber, NumericContent } from '@/core/question/types/numeric/content';
import { matchNumber, numericResponseText } from '@/core/question/types/numeric/score';
import type { NumericResponse } from '@/core/question/types/numeric/student';
import { RichText } from '../../kit/RichText';
import { creditSaid, type ReviewProps, Verdict } from '../reviewing';

/** A tolerance in words; empty where the value must be met exactly. */
function toleranceText({ kind, amount }: AcceptedNumber['tolerance']): string {
  if (kind === 'significant') return ` to ${amount} significant ${oneOrMany(amount, 'digit')}`;
  if (amount === 0) return '';
  return kind === 'relative' ? ` ± ${pointsText(amount * 100)} %` : ` ± ${amount}`;
}

/** The accepted values in words. For those who may see the key. */
export function NumericReview({ content, response }: ReviewProps<NumericContent, NumericResponse>) {
  const matched = response ? content.accepted[matchNumber(content, response)] : undefined;
  const base = content.units?.list[0]?.name;
  return (
    <div className="space-y-1">
      {response && (
        <p className="px-2">
          {numericResponseText(response)}{' '}
          <Verdict right={(matched?.credit ?? 0) > 0} text={creditSaid(matched?.credit)} />
        </p>
      )}
      <ul className="bg-pine-wash px-2 py-1">
        {content.accepted.map((accepted) => (
          <li key={`${accepted.value}/${accepted.credit}`}>
            {accepted.credit > 0 ? 'Right' : 'Foreseen'}:{' '}
            <strong>{[accepted.value, base].filter(Boolean).join(' ')}</strong>
            {toleranceText(accepted.tolerance)}
            {accepted.credit < 1 && ` for ${pointsText(accepted.credit * 100)} % of the points`}
            {accepted.feedback && <RichText rich={accepted.feedback} className="text-sm text-ink-2" />}
          </li>
        ))}
      </ul>
      {content.units && content.units.list.length > 1 && (
        <p className="px-2 text-sm text-ink-2">
          Units:{' '}
          {content.units.list
            .map((unit) =>
              unit.factor === 1 ? unit.name : `${unit.name} = ${Number(unit.factor.toPrecision(6))} ${base}`,
            )
            .join('; ')}
        </p>
      )}
    </div>
  );
}

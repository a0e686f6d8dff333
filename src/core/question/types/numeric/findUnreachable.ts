import type { Finding } from '../../finding';
import type { AcceptedNumber } from './content';
import { readNumber } from './readNumber';
import { accepts } from './score';

/** Accepted values that never earn their credit: another one covers all they accept and earns more. */
export const findUnreachable = (accepted: readonly AcceptedNumber[]): Finding[] =>
  accepted.flatMap((one, i): Finding[] => {
    const value = readNumber(one.value);
    const better = accepted.find(
      (other, j) =>
        j !== i && value.ok && other.credit > one.credit && accepts(other, value.value) && covers(other, one),
    );
    if (!better) return [];
    const message = `The value ${one.value} never earns its ${one.credit * 100} %: ${better.value} covers it with more.`;
    return [{ kind: 'unreachable', message }];
  });

/** Whether everything that one value accepts lies within what another accepts. */
function covers(other: AcceptedNumber, one: AcceptedNumber): boolean {
  const value = readNumber(one.value);
  if (!value.ok) return false;
  const { kind, amount } = one.tolerance;
  const reach =
    kind === 'absolute'
      ? amount
      : kind === 'relative'
        ? amount * Math.abs(value.value)
        : Math.abs(value.value) * 10 ** -amount;
  return accepts(other, value.value - reach) && accepts(other, value.value + reach);
}

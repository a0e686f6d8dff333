/**
 * Whether a component would draw the same: everything it says is the same, lists by what stands in them. What it calls is
 * left aside, so that it must stay good when the rest has changed: give such a component ways that look up what they act on.
 * For `memo`.
 */
export function sameSaid<Props extends object>(before: Props, after: Props): boolean {
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])] as (keyof Props)[];
  return names.every((name) => {
    const one: unknown = before[name];
    const other: unknown = after[name];
    if (typeof one === 'function' && typeof other === 'function') return true;
    if (Array.isArray(one) && Array.isArray(other))
      return one.length === other.length && one.every((each, i) => Object.is(each, other[i]));
    return Object.is(one, other);
  });
}

/**
 * What two people did to the same thing from the same beginning, where they touched the same place. `path` leads there by
 * the names of fields and the ids of elements; something that is gone is undefined.
 */
export type Clash = { path: readonly string[]; base: unknown; mine: unknown; theirs: unknown };

type Plain = Record<string, unknown>;
type Named = Plain & { id: string };

const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isList = (value: unknown): value is Named[] =>
  Array.isArray(value) &&
  value.every((one) => isPlain(one) && typeof one.id === 'string') &&
  new Set(value.map((one) => one.id)).size === value.length;

/** Whether two JSON values say the same: fields that are undefined are as if they were not there, in whatever order. */
export function isAlike(one: unknown, other: unknown): boolean {
  if (Object.is(one, other)) return true;
  if (Array.isArray(one) && Array.isArray(other))
    return one.length === other.length && one.every((value, i) => isAlike(value, other[i]));
  if (!isPlain(one) || !isPlain(other)) return false;
  return [...new Set([...Object.keys(one), ...Object.keys(other)])].every((key) => isAlike(one[key], other[key]));
}

/** What says of a thing which kind it is: things of two kinds have no fields in common, whatever these are called. */
const kindOf = (value: Plain): unknown => [value.kind, value.type];

/**
 * Joins what two people made of the same JSON value (three-way merge). Where only one of them changed a place, their
 * change stands; where both did, alike, it stands; where both did otherwise, mine stands and the place is named.
 *
 * Objects are joined field by field, unless they are of two kinds (`kind`, `type`); lists of things that have an `id` thing
 * by thing, in the order of whoever changed it, mine where both did; any other list is one value, as a text is. A thing that one removed and the other
 * changed stays as it was changed, and is named.
 *
 * @example merged({ a: 1, b: 1 }, { a: 2, b: 1 }, { a: 1, b: 3 }) // { value: { a: 2, b: 3 }, clashes: [] }
 */
export function merged<T>(base: T, mine: T, theirs: T): { value: T; clashes: Clash[] } {
  const clashes: Clash[] = [];
  const value = join(base, mine, theirs, [], clashes) as T;
  return { value, clashes };
}

function join(base: unknown, mine: unknown, theirs: unknown, path: readonly string[], clashes: Clash[]): unknown {
  if (isAlike(mine, theirs) || isAlike(theirs, base)) return mine;
  if (isAlike(mine, base)) return theirs;
  if (isPlain(mine) && isPlain(theirs) && isPlain(base) && isAlike(kindOf(mine), kindOf(theirs))) {
    if (isAlike(kindOf(mine), kindOf(base))) return joinFields(base, mine, theirs, path, clashes);
  } else if (isList(mine) && isList(theirs) && isList(base)) return joinThings(base, mine, theirs, path, clashes);
  clashes.push({ path, base, mine, theirs });
  // Of a thing that was changed and removed stays what was changed: what somebody wrote is not lost.
  return mine === undefined ? theirs : mine;
}

function joinFields(base: Plain, mine: Plain, theirs: Plain, path: readonly string[], clashes: Clash[]): Plain {
  const keys = new Set([...Object.keys(mine), ...Object.keys(theirs)]);
  const fields = [...keys].map((key) => [key, join(base[key], mine[key], theirs[key], [...path, key], clashes)]);
  return Object.fromEntries(fields.filter(([, value]) => value !== undefined));
}

function joinThings(base: Named[], mine: Named[], theirs: Named[], path: readonly string[], clashes: Clash[]): Named[] {
  const byId = (list: readonly Named[]) => new Map(list.map((one) => [one.id, one]));
  const [inBase, inMine, inTheirs] = [byId(base), byId(mine), byId(theirs)];
  const both = [...inBase.keys()].filter((id) => inMine.has(id) && inTheirs.has(id));
  const common = new Set(both);
  const orderOf = (list: readonly Named[]) => list.filter((one) => common.has(one.id)).map((one) => one.id);
  const [first, second] = isAlike(orderOf(mine), both) ? [theirs, mine] : [mine, theirs];
  const order = first.map((one) => one.id);
  // What only the other has stands behind what it stood behind there.
  for (const [i, { id }] of second.entries()) {
    if (order.includes(id)) continue;
    const before = second.slice(0, i).findLast((one) => order.includes(one.id));
    order.splice(before ? order.indexOf(before.id) + 1 : 0, 0, id);
  }
  return order.flatMap((id) => {
    const one = join(inBase.get(id), inMine.get(id), inTheirs.get(id), [...path, id], clashes);
    return one === undefined ? [] : [one as Named];
  });
}

/**
 * A joined value in which the places that both changed are as the other person left them.
 *
 * @param value what {@link merged} made
 * @param clashes the places it named
 */
export const withTheirs = <T>(value: T, clashes: readonly Clash[]): T =>
  clashes.reduce<unknown>((so, { path, theirs }) => put(so, path, theirs), value) as T;

function put(at: unknown, [head, ...rest]: readonly string[], value: unknown): unknown {
  if (head === undefined) return value;
  if (isList(at)) {
    const one = put(
      at.find(({ id }) => id === head),
      rest,
      value,
    );
    if (one === undefined) return at.filter(({ id }) => id !== head);
    return at.some(({ id }) => id === head) ? at.map((old) => (old.id === head ? one : old)) : [...at, one];
  }
  const fields = { ...(isPlain(at) ? at : {}), [head]: put(isPlain(at) ? at[head] : undefined, rest, value) };
  return Object.fromEntries(Object.entries(fields).filter(([, field]) => field !== undefined));
}

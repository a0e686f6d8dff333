import type { z } from 'zod';
import { idsOf, type Thing } from '@/core/base/id';
import { emptyRich } from '@/core/base/rich';

/** What is tried where a schema asks for text or a number of a certain form. */
const texts = [
  'x',
  '',
  'xxxxxxxxxx',
  '2026-03-09',
  '2026-03-09T10:00',
  'Europe/Oslo',
  '10.1.0.0/16',
  'a@school.example',
  '0'.repeat(64),
];
const numbers = [1, 0, 0.5, 10, 1_000];

// biome-ignore lint/suspicious/noExplicitAny: the inside of a schema differs from kind to kind
type Inside = any;

/** Which option of every choice between shapes is taken: each in turn, by a number that counts up. */
export type Turn = number;

/** How many turns it takes to see every option of every choice in a schema: as many as the largest has. */
export function turnsOf(schema: z.ZodType): number {
  let most = 1;
  sampleOf(
    schema,
    () => 'x',
    0,
    (options) => {
      most = Math.max(most, options);
    },
  );
  return most;
}

/**
 * Something a schema takes, with every id it reads filled in: what a test sends to a use-case of which it knows no more
 * than its definition.
 *
 * @param idFor the id to be put where one of a thing stands
 * @param met is told how many options each choice between shapes has
 */
export function sampleOf(
  schema: z.ZodType,
  idFor: (thing: Thing) => string,
  turn: Turn = 0,
  met: (options: number) => void = () => undefined,
): unknown {
  const named = idsOf.get(schema as never);
  if (named) return idFor(named.thing);
  const def = (schema as unknown as { _zod: { def: Inside } })._zod.def;
  const fitting = (candidates: readonly unknown[]) =>
    candidates.find((one) => schema.safeParse(one).success) ?? candidates[0];
  const within = (inner: z.ZodType) => sampleOf(inner, idFor, turn, met);
  switch (def.type as string) {
    case 'string':
      return fitting(texts);
    case 'number':
    case 'int':
      return fitting(numbers);
    case 'boolean':
      return true;
    case 'null':
      return null;
    case 'literal':
      return def.values[0];
    case 'enum':
      return Object.values(def.entries)[0];
    case 'object':
      return Object.fromEntries(Object.entries(def.shape).map(([key, inner]) => [key, within(inner as z.ZodType)]));
    case 'array':
      return fitting([[within(def.element)], []]);
    case 'tuple':
      return def.items.map(within);
    case 'record':
      return schema.safeParse({}).success && !idsOf.has(def.keyType)
        ? {}
        : { [String(within(def.keyType))]: within(def.valueType) };
    case 'union': {
      met(def.options.length);
      const first = within(def.options[turn % def.options.length]);
      return schema.safeParse(first).success ? first : fitting(def.options.map(within));
    }
    case 'nullable':
    case 'optional':
    case 'default':
    case 'prefault':
    case 'catch':
    case 'readonly':
    case 'nonoptional': {
      const inner = within(def.innerType);
      return schema.safeParse(inner).success ? inner : fitting([inner, null, undefined]);
    }
    case 'pipe':
      return fitting([within(def.in), ...texts, emptyRich]);
    case 'lazy':
      return within(def.getter());
    case 'custom':
      return fitting([new Uint8Array([1]), {}]);
    default:
      return fitting(['x', {}, [], 1]);
  }
}

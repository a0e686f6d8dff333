import { z } from 'zod';

/** Units of an answer. The first is the base unit, in which the accepted values are given; its factor is 1. */
const unitsSchema = z
  .object({
    list: z
      .array(
        z.object({
          name: z
            .string()
            .trim()
            .min(1, 'Name the unit.')
            .max(20, 'At most 20 characters.')
            .regex(/^[\p{L}\p{S}\p{M}°%'"′″µ(/][^,;]*$/u, 'A unit begins with a letter or a sign such as °, % or /.'),
          /** One of this unit in base units: 1852 for a nautical mile where the base is the metre. */
          factor: z.number().positive('A factor is more than 0.').finite(),
        }),
      )
      .min(1)
      .max(20),
    /** Whether the student types the unit or picks it from the list. */
    entry: z.enum(['typed', 'list']),
    /** What an answer without a unit is: refused, or taken to be in the base unit. */
    missing: z.enum(['refuse', 'assume']),
  })
  .superRefine((units, context) => {
    if (units.list[0]?.factor !== 1)
      context.addIssue({
        code: 'custom',
        path: ['list', 0, 'factor'],
        message: 'The first unit is the base: its factor is 1.',
      });
    const names = units.list.map((unit) => tidyUnit(unit.name));
    names.forEach((name, i) => {
      if (names.indexOf(name) !== i)
        context.addIssue({ code: 'custom', path: ['list', i, 'name'], message: 'This unit stands here twice.' });
    });
  });

/** The units of a key, the first of them the base, each with the factor that leads to the base. */
export type Units = z.output<typeof unitsSchema>;

/** The field of everything that is answered by a quantity. */
export const quantityFields = { units: unitsSchema.optional() };

/** A unit's name without spaces, so that `m / s` is `m/s`. */
const tidyUnit = (name: string): string => name.normalize('NFC').replace(/\s+/g, '');

/** The unit that a student meant: the same name, or the only one that differs from it in case alone. */
export function findUnit(units: Units, name: string): Units['list'][number] | null {
  const wanted = tidyUnit(name);
  const same = units.list.find((unit) => tidyUnit(unit.name) === wanted);
  if (same) return same;
  const alike = units.list.filter((unit) => tidyUnit(unit.name).toLowerCase() === wanted.toLowerCase());
  return alike.length === 1 ? (alike[0] as Units['list'][number]) : null;
}

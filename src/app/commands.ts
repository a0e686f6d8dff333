import type { Served } from '@/server/served';
import type { Commands } from '@/ui/kit/commands';
import { ask } from './ask';

/**
 * The use-cases that a page hands to its components, bound to where it is.
 *
 * @example commandsIn({ courseId, bankId }, 'renameCategory', 'moveCategory')
 */
export const commandsIn = <Known extends Record<string, string>, Names extends keyof Served>(
  where: Known,
  ...names: Names[]
): Commands<Names, keyof Known & string> =>
  Object.fromEntries(names.map((name) => [name, ask.bind(null, name, where)])) as unknown as Commands<
    Names,
    keyof Known & string
  >;

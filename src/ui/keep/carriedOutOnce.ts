import { onceAs } from '@/core/base/once';
import type { Command } from '../kit/usePerform';

/**
 * A command under a name: sent again under the same name, it is answered again and not carried out twice.
 *
 * @param once a name that no other request has
 */
export const carriedOutOnce =
  <Input extends unknown[], Value>(command: Command<Input, Value>, once: string): Command<Input, Value> =>
  (...input) =>
    (command as Command<unknown[], Value>)(...input, onceAs(once));

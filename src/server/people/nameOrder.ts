import { z } from 'zod';
import { ok, type Result } from '@/core/base/result';
import { type NameOrder, nameOrders } from '@/core/people/names';
import type { Context } from '../house/context';
import { prefer, preferred } from '../house/preferences';
import { command } from '../house/useCase';
import { toCourse } from './toCourse';

const preference = 'people.order';

/** How whoever asks wants people sorted: by the first name, unless they have said otherwise. */
export const nameOrderOf = ({ db, actor }: Context): NameOrder =>
  preferred(db, actor.userId, preference) === 'last' ? 'last' : 'first';

/** Sorts lists of people by first or last name from now on, in every course, for whoever asks. */
export const setNameOrder = command({
  admits: toCourse('course.see'),
  takes: [z.enum(nameOrders)],
  unlogged: 'how somebody likes to see a list changes nothing for anybody else',
  does({ tx, actor }, order): Result<null> {
    prefer(tx, actor.userId, preference, order);
    return ok(null);
  },
});

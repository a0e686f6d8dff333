import type { IdsOf, SentTo, ValueOf } from '@/server/house/useCase';
import type { Served } from '@/server/served';
import type { Command } from './usePerform';

/** The ids a use-case needs that its page does not know: they are sent first. */
type Further<Ids, Known> = Ids extends readonly [infer First, ...infer Rest]
  ? First extends Known
    ? Further<Rest, Known>
    : [id: string, ...Further<Rest, Known>]
  : [];

/**
 * The use-cases a component asks for, by their names on the server: what each takes and gives follows from its definition.
 *
 * @typeParam Known the ids of the page, which are sent by themselves
 * @example { commands: Commands<'renameCategory' | 'moveCategory', 'courseId' | 'bankId'> }
 */
export type Commands<Names extends keyof Served, Known extends string> = {
  [Name in Names]: Command<[...Further<IdsOf<Served[Name]>, Known>, ...SentTo<Served[Name]>], ValueOf<Served[Name]>>;
};

/** The last thing sent to a use-case: what a form fills in. */
export type InputOf<Name extends keyof Served> = SentTo<Served[Name]> extends [...unknown[], infer Last] ? Last : never;

import { type AnySQLiteColumn, integer, text } from 'drizzle-orm/sqlite-core';

/** The columns that recur: a text id, another row's id, a moment in UTC milliseconds, JSON kept as text. */
export const id = () => text('id').primaryKey();
export const reference = (name: string, to: () => AnySQLiteColumn, onDelete?: 'cascade') =>
  text(name).notNull().references(to, { onDelete });
export const moment = (name: string) => integer(name);
export const json = <T>(name: string) => text(name, { mode: 'json' }).$type<T>();

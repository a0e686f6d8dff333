import { z } from 'zod';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Action } from '@/core/people/policy';
import type { Db, Tx } from '@/db/client';
import { type AuditEntry, record } from './audit';
import type { Actor, Context } from './context';
import { answeredBefore, noteAnswered } from './once';
import { afterwards, writing } from './writing';

/**
 * How somebody comes to do something: which ids say where it is done, by which action of the policy they are admitted
 * there, and what is known of the place from then on. Ids from a browser are never trusted to belong together: a door
 * looks them up together.
 */
export type Door<Ids extends readonly string[], Known extends object> = {
  ids: Ids;
  /** Null where it is not a role in a course that decides: one's own attempt, the house itself. */
  action: Action | null;
  open(context: Context, ...ids: IdValues<Ids>): Result<Known>;
};

type IdValues<Ids extends readonly string[]> = { [K in keyof Ids]: string };

type Schemas = readonly z.ZodType[];
type Read<Takes extends Schemas> = { -readonly [K in keyof Takes]: z.output<Takes[K]> };

/** What a browser sends for each schema: optional ones may be left out at the end. */
type Sent<Takes extends Schemas> = Takes extends readonly [infer First extends z.ZodType, ...infer Rest extends Schemas]
  ? undefined extends z.input<First>
    ? [first?: z.input<First>, ...rest: Sent<Rest>]
    : [first: z.input<First>, ...rest: Sent<Rest>]
  : [];

/** Callers on the server may send anything where an object is expected: the schema reads it. */
type Loose<Value> = Value extends string ? string : Value extends number | boolean | null | undefined ? Value : unknown;
type LooselySent<Arguments extends readonly unknown[]> = { [K in keyof Arguments]: Loose<Arguments[K]> };

/** What every use-case works with, whatever it does. */
type Looking<Ids extends readonly string[], Known> = {
  context: Context;
  db: Db;
  actor: Actor;
  now: Instant;
} & { [Id in Ids[number]]: string } & Known;

/** One line of the log, without what is known already: who, when, where. */
export type LogLine = Omit<AuditEntry, 'action' | 'courseId'> & { action?: string };

/** What a command works with besides. */
type Writing<Ids extends readonly string[], Known> = Looking<Ids, Known> & {
  tx: Tx;
  /** Writes the log row of this command. @returns the id by which it is taken back */
  record(line: LogLine): number;
  /** Does something once everything is stored: telling live pages. */
  afterwards(act: () => void): void;
};

/** Every command stands in the log under a name, or says why it does not. */
type Logged = { logs: string; unlogged?: never } | { unlogged: string; logs?: never };

/** A use-case: called with its context, the ids of its door, and what its schemas read. */
type UseCase<Ids extends readonly string[], Takes extends Schemas, Answer> = {
  (context: Context, ...sent: [...IdValues<Ids>, ...LooselySent<Sent<Takes>>]): Answer;
  readonly kind: 'query' | 'command';
  readonly door: Pick<Door<Ids, object>, 'ids' | 'action'>;
  /** Whether somebody would be admitted, before what they send is read. */
  admits(context: Context, ...ids: IdValues<Ids>): Result<unknown>;
  readonly takes: Takes;
};

/** Any use-case at all, as whoever only has its name knows it. */
export type AnyUseCase = {
  // biome-ignore lint/suspicious/noExplicitAny: what it takes and answers, its own type says
  (context: Context, ...sent: any[]): any;
  readonly kind: 'query' | 'command';
  readonly door: { ids: readonly string[]; action: Action | null };
  // biome-ignore lint/suspicious/noExplicitAny: how many ids it takes, its own type says
  admits(context: Context, ...ids: any[]): Result<unknown>;
  readonly takes: Schemas;
};

/** The ids of a use-case's door. */
export type IdsOf<One extends AnyUseCase> = One['door']['ids'];
/** What a browser sends to a use-case after the ids of its place. */
export type SentTo<One extends AnyUseCase> = Sent<One['takes']>;
/** What a use-case answers with when it does not refuse. */
export type ValueOf<One extends AnyUseCase> = Extract<Awaited<ReturnType<One>>, { ok: true }>['value'];

/** The content of a file, as a route read it. */
export const bytes = z.instanceof(Uint8Array);

/** Names a file by the SHA-256 of its content, in hexadecimal. */
export const contentHash = z.string().regex(/^[0-9a-f]{64}$/);

/** The field a schema belongs to where it reads a value that stands alone. */
const fields = z.registry<{ field: string }>();

/** A value that stands alone, with the field at which a problem of it is shown. */
export function field<Schema extends z.ZodType>(name: string, schema: Schema): Schema {
  fields.add(schema, { field: name });
  return schema;
}

/** Reads what was sent by the schemas; every issue becomes a problem at its field. */
function read<Takes extends Schemas>(takes: Takes, sent: readonly unknown[]): Result<Read<Takes>> {
  const values: unknown[] = [];
  for (const [i, schema] of takes.entries()) {
    const parsed = schema.safeParse(sent[i]);
    if (!parsed.success)
      return {
        ok: false,
        problems: parsed.error.issues.map((issue) => ({
          code: 'bad-input',
          message: issue.message,
          field: [fields.get(schema)?.field ?? [], issue.path.map(String)].flat(2).join('.'),
        })),
      };
    values.push(parsed.data);
  }
  return ok(values as Read<Takes>);
}

const looking = <Ids extends readonly string[], Known extends object>(
  context: Context,
  door: Door<Ids, Known>,
  ids: IdValues<Ids>,
  known: Known,
) => {
  const { db, actor, now } = context;
  const named = Object.fromEntries(door.ids.map((name, i) => [name, ids[i]]));
  return { ...named, ...known, context, db, actor, now } as Looking<Ids, Known>;
};

/**
 * Does something within a request. What fails unforeseen carries the request's id from then on, which is what an error
 * page shows and where the log says what happened.
 */
function within<Answer>({ requestId }: Context, act: () => Answer): Answer {
  const marked = (why: unknown) =>
    requestId && why instanceof Error && !('digest' in why) ? Object.assign(why, { digest: requestId }) : why;
  try {
    const answer = act();
    if (!(answer instanceof Promise)) return answer;
    return answer.catch((why: unknown) => {
      throw marked(why);
    }) as Answer;
  } catch (why) {
    throw marked(why);
  }
}

/**
 * Defines what only looks: admission, then reading what was sent, then what it does.
 *
 * @example
 * export const listBanks = query({
 *   admits: toCourse('bank.see'),
 *   does: ({ db, courseId }) => ok(banksOf(db, courseId)),
 * });
 */
export function query<
  const Ids extends readonly string[],
  Known extends object,
  Answer extends Result<unknown> | Promise<Result<unknown>>,
  const Takes extends Schemas = [],
>(definition: {
  admits: Door<Ids, Known>;
  takes?: Takes;
  does(look: Looking<Ids, Known>, ...read: Read<Takes>): Answer;
}): UseCase<Ids, Takes, Answer | Result<never>> {
  const { admits: door, takes = [] as unknown as Takes, does } = definition;
  const one = (context: Context, ...sent: unknown[]) => {
    const ids = sent.slice(0, door.ids.length) as IdValues<Ids>;
    const admitted = door.open(context, ...ids);
    if (!admitted.ok) return admitted;
    const values = read(takes, sent.slice(door.ids.length));
    if (!values.ok) return values;
    return does(looking(context, door, ids, admitted.value), ...values.value);
  };
  const traced = (context: Context, ...sent: unknown[]) => within(context, () => one(context, ...sent));
  return Object.assign(traced, { kind: 'query' as const, door, admits: door.open, takes });
}

type Command<Ids extends readonly string[], Known extends object, Takes extends Schemas, Value> = Logged & {
  admits: Door<Ids, Known>;
  takes?: Takes;
  does(work: Writing<Ids, Known>, ...read: Read<Takes>): Result<Value>;
};
type Prepared<Ids extends readonly string[], Known extends object, Takes extends Schemas, Ready, Value> = Logged & {
  admits: Door<Ids, Known>;
  takes?: Takes;
  /** What takes time, before anything is written: reading a file. */
  prepares(look: Looking<Ids, Known>, ...read: Read<Takes>): Result<Ready> | Promise<Result<Ready>>;
  does(work: Writing<Ids, Known> & { ready: Ready }, ...read: Read<Takes>): Result<Value>;
};

/**
 * Defines what writes: admission, then reading what was sent, then one transaction with its line in the log. Whatever
 * refuses leaves nothing written ({@link writing}). What is prepared before, is admitted anew when it is written.
 *
 * @example
 * export const dropComment = command({
 *   admits: toMarking,
 *   takes: [id('comment')],
 *   logs: 'marking.drop-comment',
 *   does({ tx, record }, commentId) {
 *     const gone = tx.delete(savedComment).where(eq(savedComment.id, commentId)).run();
 *     if (gone.changes === 0) return notFound('comment');
 *     record({ subjectId: commentId });
 *     return ok(null);
 *   },
 * });
 */
export function command<
  const Ids extends readonly string[],
  Known extends object,
  Ready,
  Value,
  const Takes extends Schemas = [],
>(definition: Prepared<Ids, Known, Takes, Ready, Value>): UseCase<Ids, Takes, Promise<Result<Value>>>;
export function command<
  const Ids extends readonly string[],
  Known extends object,
  Value,
  const Takes extends Schemas = [],
>(definition: Command<Ids, Known, Takes, Value>): UseCase<Ids, Takes, Result<Value>>;
export function command<Ids extends readonly string[], Known extends object, Takes extends Schemas, Ready, Value>(
  definition: Command<Ids, Known, Takes, Value> | Prepared<Ids, Known, Takes, Ready, Value>,
): AnyUseCase {
  const { admits: door, takes = [] as unknown as Takes, logs } = definition;
  const write = (context: Context, ids: IdValues<Ids>, known: Known, values: Read<Takes>, ready?: Ready) =>
    writing(context, (tx, within) => {
      // What is done within another command is carried out as often as that is.
      const own = context.under === undefined;
      const answered = own && answeredBefore(tx, context);
      if (answered) return answered as Result<Value>;
      const before = { changes: changesSoFar(context.db), lines: within.under?.lines };
      const work = {
        ...looking(within, door, ids, known),
        tx,
        record: (line: LogLine) =>
          record(tx, within, {
            courseId: 'courseId' in known ? String(known.courseId) : null,
            action: logs ?? '',
            ...line,
          }),
        afterwards: (act: () => void) => afterwards(within, act),
        ready: ready as Ready,
      };
      const answer = definition.does(work, ...values);
      const silent = within.under?.lines === before.lines && changesSoFar(context.db) !== before.changes;
      if (answer.ok && logs !== undefined && silent) throw new Error(`${logs} was done and does not stand in the log.`);
      if (answer.ok && own) noteAnswered(tx, context, answer.value);
      return answer;
    });
  const one = (context: Context, ...sent: unknown[]) => {
    const ids = sent.slice(0, door.ids.length) as IdValues<Ids>;
    const admitted = door.open(context, ...ids);
    if (!admitted.ok) return admitted;
    const values = read(takes, sent.slice(door.ids.length));
    if (!values.ok) return values;
    if (!('prepares' in definition)) return write(context, ids, admitted.value, values.value);
    return (async () => {
      const ready = await definition.prepares(looking(context, door, ids, admitted.value), ...values.value);
      if (!ready.ok) return ready;
      const again = door.open(context, ...ids);
      return again.ok ? write(context, ids, again.value, values.value, ready.value) : again;
    })();
  };
  const traced = (context: Context, ...sent: unknown[]) => within(context, () => one(context, ...sent));
  return Object.assign(traced, { kind: 'command' as const, door, admits: door.open, takes });
}

const counters = new WeakMap<Db, { get(): unknown }>();

/** How many rows this connection has changed since it was opened. */
function changesSoFar(db: Db): unknown {
  const counter = counters.get(db) ?? db.$client.prepare('select total_changes()').pluck();
  counters.set(db, counter);
  return counter.get();
}

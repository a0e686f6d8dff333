import { and, desc, eq, inArray, like, or, sql } from 'drizzle-orm';
import { type AttemptEventKind, attemptEventNames } from '@/core/attempt/attemptEvents';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { attempt, attemptEvent, audit, sittingNote, user } from '@/db/schema';
import { query } from '../house/useCase';
import { toSitting } from '../sitting/toSitting';

/** One line of the log of a sitting. */
export type LogLine = {
  key: string;
  at: Instant;
  /** Whom it is about; null for everyone. */
  about: string | null;
  /** Who did it; null for students themselves and the clock. */
  by: string | null;
  what: string;
  kind: 'event' | 'incident' | 'message' | 'refused';
  /** Of an incident that waits for a decision, its number; null for everything else. */
  open: number | null;
};

const mostLines = 400;
/** What happens all the time, and is no news. */
const quiet: AttemptEventKind[] = ['opened', 'went-on', 'checked'];

const refusedSaid: Record<string, string> = {
  'refused.entry.code': 'a wrong entry code was typed',
  'refused.attempt.early': 'tried to start before it opened',
  'refused.entry.network': 'a request came from outside the allowed networks',
  'refused.attempt.save': 'a save for somebody else’s paper was refused',
  'refused.attempt.open': 'opening somebody else’s attempt was refused',
};

/** The newest of everything that happened in a sitting: events of attempts, incidents, messages, and what was refused. */
export const roomLog = query({
  admits: toSitting('sitting.invigilate'),
  does({ db, sittingId }): Result<LogLine[]> {
    const events = db
      .select({
        id: attemptEvent.id,
        at: attemptEvent.at,
        kind: attemptEvent.kind,
        detail: attemptEvent.detail,
        actorId: attemptEvent.actorId,
        userId: attempt.userId,
      })
      .from(attemptEvent)
      .innerJoin(attempt, eq(attempt.id, attemptEvent.attemptId))
      .where(and(eq(attempt.sittingId, sittingId), sql`${attemptEvent.kind} not in ${quiet}`))
      .orderBy(desc(attemptEvent.at), desc(attemptEvent.id))
      .limit(mostLines)
      .all();
    const notes = db
      .select()
      .from(sittingNote)
      .where(eq(sittingNote.sittingId, sittingId))
      .orderBy(desc(sittingNote.id))
      .limit(mostLines)
      .all();
    const refusals = db
      .select()
      .from(audit)
      .where(
        and(
          like(audit.action, 'refused.%'),
          or(
            eq(audit.subjectId, sittingId),
            inArray(
              audit.subjectId,
              db.select({ id: attempt.id }).from(attempt).where(eq(attempt.sittingId, sittingId)),
            ),
          ),
        ),
      )
      .orderBy(desc(audit.id))
      .limit(mostLines)
      .all();
    const ids = [
      ...events.flatMap((one) => [one.userId, one.actorId ?? '']),
      ...notes.flatMap((one) => [one.userId ?? '', one.by]),
      ...refusals.map((one) => one.actorId ?? ''),
    ];
    const names = new Map(
      db
        .select({ id: user.id, name: user.name })
        .from(user)
        .where(inArray(user.id, [...new Set(ids)]))
        .all()
        .map((one) => [one.id, one.name]),
    );
    const name = (id: string | null) => (id === null ? null : (names.get(id) ?? null));
    const lines: LogLine[] = [
      ...events.map((one): LogLine => {
        const { reason, minutes, by } = (one.detail ?? {}) as { reason?: string; minutes?: number; by?: string };
        const said =
          one.kind === 'handed-in' && by === 'clock'
            ? 'handed in by the clock'
            : one.kind === 'handed-in' && by === 'page'
              ? 'handed in by the open page, the time being over'
              : one.kind === 'handed-in' && by === 'invigilator'
                ? 'handed in for them'
                : attemptEventNames[one.kind];
        return {
          key: `e${one.id}`,
          at: one.at,
          about: name(one.userId),
          by: one.actorId === one.userId ? null : name(one.actorId),
          what: `${said}${minutes ? `: ${minutes} min` : ''}${reason ? ` — ${reason}` : ''}`,
          kind: 'event',
          open: null,
        };
      }),
      ...notes.map(
        (one): LogLine => ({
          key: `n${one.id}`,
          at: one.at,
          about: name(one.userId),
          by: name(one.by),
          what: one.text,
          kind: one.kind,
          open: one.kind === 'incident' && one.settledAt === null ? one.id : null,
        }),
      ),
      ...refusals.map(
        (one): LogLine => ({
          key: `r${one.id}`,
          at: one.at,
          about: name(one.actorId),
          by: null,
          what: `${refusedSaid[one.action] ?? 'something was refused'}${one.detail?.address ? ` (from ${String(one.detail.address)})` : ''}`,
          kind: 'refused',
          open: null,
        }),
      ),
    ];
    return ok(lines.sort((a, b) => b.at - a.at).slice(0, mostLines));
  },
});

import { type Duration, day, type Instant } from '../base/time';
import {
  type Fact,
  facts,
  onceFor,
  type ReleaseEnd,
  type ReleaseMoment,
  type ReleasePlan,
  type ReleaseWindow,
} from './plan';

/** What has been put in front of a student for a sitting, withdrawn ones included. */
type PublicationFacts = {
  publishedAt: Instant;
  withdrawnAt: Instant | null;
  /** Written by a moment of the plan, not by publishing. */
  preliminary?: boolean;
};

/** What lies between one student and one sitting, as far as release is concerned. Voided attempts are left out. */
export type AttemptFacts = {
  /** When each of their attempts was handed in, by number of attempt. */
  handedIn: readonly Instant[];
  /**
   * The moment from which no attempt of theirs runs and none can be started; null while one runs. It may lie ahead: then
   * it comes unless something is started, and is asked for again.
   */
  doneAt: Instant | null;
  /** Their own closing. */
  closes: Instant | null;
};

/** What everyone of the sitting has in common. */
type AudienceFacts = {
  closes: Instant | null;
  /** When it is over for everyone, as it stands now; null for never. */
  overAt: Instant | null;
};

/** When the student opened what is shown once, by fact. */
export type Views = Partial<Record<Fact, Instant>>;

/** All that decides what one student may see of one sitting. */
export type ReleaseFacts = {
  attempts: AttemptFacts;
  audience: AudienceFacts;
  publications: readonly PublicationFacts[];
  views: Views;
};

/** When a window is open: from `from`, inclusive, until `until`, exclusive; null bounds are never reached. */
type Span = {
  from: Instant;
  until: Instant | null;
  /** It waits for the student to open it. */
  once: Duration | null;
};

const later = (at: Instant | null, by: Duration): Instant | null => (at === null ? null : at + by);

/** When a window begins, as things stand; null where it is not known yet. Publishing is looked at by {@link spansOf}. */
function beginsAt(moment: ReleaseMoment, { attempts, audience }: ReleaseFacts): Instant | null {
  const { handedIn, doneAt, closes } = attempts;
  switch (moment.kind) {
    case 'as-they-go':
    case 'on-hand-in':
      return handedIn[0] ?? null;
    case 'after-attempt':
      return handedIn[moment.number - 1] ?? null;
    case 'after-last-attempt':
      return doneAt === null ? null : Math.max(doneAt, handedIn.at(-1) ?? Number.NEGATIVE_INFINITY);
    case 'over-for-everyone':
      return audience.overAt;
    case 'at':
      return moment.at;
    case 'after-closing':
      return later(audience.closes === null ? null : Math.max(audience.closes, closes ?? 0), moment.days * day);
    case 'on-publishing':
      return null;
  }
}

function endsAt(end: ReleaseEnd | undefined, from: Instant, { closes }: AttemptFacts): Instant | null {
  switch (end?.kind) {
    case 'at-closing':
      return closes;
    case 'at':
      return end.at;
    case 'after-days':
      return from + end.days * day;
    default:
      return null;
  }
}

/** When a window is open for a student, as things stand. Of publishing there is a span for each publication. */
export function spansOf(window: ReleaseWindow, released: ReleaseFacts): Span[] {
  const once = window.ends?.kind === 'once' ? onceFor(window.ends) : null;
  const span = (from: Instant | null, withdrawnAt: Instant | null = null): Span[] => {
    if (from === null) return [];
    const end = endsAt(window.ends, from, released.attempts);
    const until = [end, withdrawnAt].filter((one) => one !== null);
    return [{ from, until: until.length ? Math.min(...until) : null, once }];
  };
  if (window.begins.kind !== 'on-publishing') return span(beginsAt(window.begins, released));
  return released.publications
    .filter((one) => !one.preliminary)
    .flatMap((one) => span(one.publishedAt, one.withdrawnAt));
}

const within = ({ from, until }: Span, now: Instant) => from <= now && (until === null || now < until);

/** Whether a span shows its fact now: what is shown once, only after it was opened and for as long as it may. */
function shows(span: Span, opened: Instant | undefined, now: Instant): boolean {
  if (span.once === null) return within(span, now);
  if (opened === undefined || !within(span, opened)) return false;
  return opened <= now && now < opened + span.once;
}

/** Whether what a fact shows stands with the questions, and is shown together with them only. */
export const needsQuestions = (fact: Fact) => fact !== 'score' && fact !== 'questions';

/**
 * Which facts a student may see now. The one function that decides it: every student-facing query goes through a use-case
 * that applies it before anything is sent. A fact is shown while any of its windows is open; what a student sees of
 * single questions presupposes the questions.
 */
export function visibleTo(plan: ReleasePlan, released: ReleaseFacts, now: Instant): Set<Fact> {
  const visible = new Set(
    facts.filter((fact) =>
      plan[fact]?.some((window) => spansOf(window, released).some((span) => shows(span, released.views[fact], now))),
    ),
  );
  if (!visible.has('questions')) for (const fact of facts) if (needsQuestions(fact)) visible.delete(fact);
  return visible;
}

/**
 * What waits for the student to open it once: neither shown by another window, nor opened before. What stands with the
 * questions waits for these: opened while they are hidden, it would show nothing and be used up.
 */
export function opensOnce(plan: ReleasePlan, released: ReleaseFacts, now: Instant): { fact: Fact; for: Duration }[] {
  const visible = visibleTo(plan, released, now);
  const waiting = facts.flatMap((fact) => {
    if (visible.has(fact) || released.views[fact] !== undefined) return [];
    const open = (plan[fact] ?? [])
      .flatMap((window) => spansOf(window, released))
      .find((span) => span.once !== null && within(span, now));
    return open?.once ? [{ fact, for: open.once }] : [];
  });
  const withQuestions = visible.has('questions') || waiting.some(({ fact }) => fact === 'questions');
  return waiting.filter(({ fact }) => withQuestions || !needsQuestions(fact));
}

/**
 * Of what waits to be opened once, what can be opened while some of it is held back for others who may still be writing:
 * nothing that stands with the questions, whose time would run out before what belongs to them is shown.
 */
export const openableOnce = <One extends { fact: Fact }>(once: readonly One[], isHeld: boolean): One[] =>
  once.filter(({ fact }) => !isHeld || (fact !== 'questions' && !needsQuestions(fact)));

/** The next moment after now at which something is shown or hidden by itself; null where nothing is known to come. */
export function nextChange(plan: ReleasePlan, released: ReleaseFacts, now: Instant): Instant | null {
  const moments = facts
    .flatMap((fact) =>
      (plan[fact] ?? []).flatMap((window) =>
        spansOf(window, released).flatMap((span) => {
          const opened = released.views[fact];
          return [span.from, span.until ?? now, opened === undefined ? now : opened + (span.once ?? 0)];
        }),
      ),
    )
    .filter((at) => at > now && Number.isFinite(at));
  return moments.length ? Math.min(...moments) : null;
}

/** Whether a plan shows the score by a moment of its own, before or without publishing. */
export const releasesScoreItself = (plan: ReleasePlan): boolean =>
  (plan.score ?? []).some((window) => window.begins.kind !== 'on-publishing');

/** Whether the score is in view for good from the moment it is published, so that a message may carry it. */
export const tellsScoreOnPublishing = (plan: ReleasePlan): boolean =>
  (plan.score ?? []).some((window) => window.begins.kind === 'on-publishing' && !window.ends);

/** The plan of a sitting unless another is set: the score, once it is published. */
export const scoreOnPublishing: ReleasePlan = { score: [{ begins: { kind: 'on-publishing' } }] };

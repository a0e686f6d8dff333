import { type Instant, momentText } from '../base/time';
import { type Fact, facts, keyFacts, type ReleaseMoment, type ReleasePlan } from './plan';
import { momentSaid, yours } from './planForStudent';
import { inARow } from './planSaid';
import { needsQuestions, type ReleaseFacts, spansOf } from './visibleTo';

/** When a student sees a fact that they do not see now, or until when they see it. */
type When =
  | { kind: 'until'; at: Instant }
  | { kind: 'from'; at: Instant; until: Instant | null }
  /** Once nobody else can be writing the same questions; ∞ where nothing ends that. */
  | { kind: 'others'; at: Instant }
  | { kind: 'event'; moment: ReleaseMoment }
  | { kind: 'was'; at: Instant };

type Asked = {
  plan: ReleasePlan;
  released: ReleaseFacts;
  /** What they see now; see {@link visibleTo}. */
  visible: ReadonlySet<Fact>;
  /** Until when a fact that the plan shows at a moment is held back for others who may be writing then; null where it is not. */
  heldAt: (fact: Fact, at: Instant) => Instant | null;
  now: Instant;
};

/**
 * When which more is shown to a student, and until when what they see now stays, in sentences: what is the same of several
 * facts stands together. Of what is never shown, of what stays, and of what they can open once now nothing is said.
 *
 * @param zone of the course, in which moments are said
 */
export function whatComes(asked: Asked, zone: string): string[] {
  const groups = new Map<string, Fact[]>();
  for (const fact of facts) {
    const when = whenOf(fact, asked);
    if (when) groups.set(said(when, zone), [...(groups.get(said(when, zone)) ?? []), fact]);
  }
  return [...groups].map(([what, own]) => {
    const names = inARow(own.map((fact) => yours[fact]));
    if (what.startsWith('until ')) return `You see ${names} ${what}.`;
    const several = own.length > 1 || own.some((fact) => many.has(fact));
    const spoken = several ? what.replace('publishes it', 'publishes them').replace('was shown', 'were shown') : what;
    return `${names[0]?.toUpperCase()}${names.slice(1)}: ${spoken}.`;
  });
}

const many: ReadonlySet<Fact> = new Set(['questions', 'own-answers', 'right-answers', 'comments']);

function whenOf(fact: Fact, asked: Asked): When | null {
  const own = ownWhen(fact, asked);
  if (!needsQuestions(fact) || asked.visible.has('questions') || own?.kind === 'was') return own;
  // It is shown together with the questions only, and these are not shown now.
  const withThem = ownWhen('questions', asked);
  if (!asked.plan[fact]?.length || !withThem || withThem.kind === 'was') return null;
  if (own?.kind === 'from' && withThem.kind === 'from') return own.at > withThem.at ? own : { ...own, at: withThem.at };
  return own?.kind === 'event' || own?.kind === 'others' || (own?.kind === 'from' && withThem.kind !== 'event')
    ? own
    : withThem;
}

function ownWhen(fact: Fact, { plan, released, visible, heldAt, now }: Asked): When | null {
  const windows = plan[fact] ?? [];
  const spans = windows.flatMap((window) => spansOf(window, released));
  const isOpen = ({ from, until }: { from: Instant; until: Instant | null }) =>
    from <= now && (until === null || now < until);
  if (visible.has(fact)) {
    // What was opened once says so itself.
    const open = spans.filter((span) => span.once === null && isOpen(span));
    const ends = open.flatMap(({ until }) => until ?? []);
    return open.length > 0 && ends.length === open.length ? { kind: 'until', at: Math.max(...ends) } : null;
  }
  if (spans.some(isOpen)) {
    // What stands with the questions is opened together with them, once none of it gives a key away.
    const withIt =
      fact === 'score'
        ? [fact]
        : [fact, ...keyFacts.filter((key) => plan[key]?.some(({ ends }) => ends?.kind === 'once'))];
    const held = withIt.flatMap((one) => heldAt(one, now) ?? []);
    return held.length && released.views[fact] === undefined ? { kind: 'others', at: Math.max(...held) } : null;
  }
  const ahead = spans
    .filter((span) => span.from > now && Number.isFinite(span.from))
    .sort((a, b) => a.from - b.from)[0];
  if (ahead) {
    const until = heldAt(fact, ahead.from);
    return until === null
      ? { kind: 'from', at: ahead.from, until: ahead.until }
      : { kind: 'others', at: Math.max(until, ahead.from) };
  }
  const isPublished = released.publications.some((one) => !one.preliminary && one.withdrawnAt === null);
  const waits = windows.find(({ begins }) =>
    begins.kind === 'on-publishing' ? !isPublished : spansOf({ begins }, released).length === 0,
  );
  if (waits) return { kind: 'event', moment: waits.begins };
  const ended = spans.flatMap(({ until }) => until ?? []);
  return ended.length ? { kind: 'was', at: Math.max(...ended) } : null;
}

function said(when: When, zone: string): string {
  switch (when.kind) {
    case 'until':
      return `until ${momentText(when.at, zone)}`;
    case 'from':
      return `from ${momentText(when.at, zone)}${when.until === null ? '' : ` until ${momentText(when.until, zone)}`}`;
    case 'others': {
      const others = 'once nobody can be writing these questions any more';
      return Number.isFinite(when.at) ? `from ${momentText(when.at, zone)}, ${others}` : others;
    }
    case 'event':
      return momentSaid(when.moment, zone, true);
    case 'was':
      return `was shown until ${momentText(when.at, zone)}`;
  }
}

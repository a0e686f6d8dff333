import { runInNewContext } from 'node:vm';
import type { Database } from 'better-sqlite3';

/**
 * Everything a course's results say, worked out a second time from the rows of the database alone: in the plainest way there
 * is, by other ways than those of the core, and with nothing of it. Where the two differ, one of them is wrong.
 *
 * Marks by the key come from the answer and the key as they are stored; drops by trying all of them; curves, late
 * deductions, weights and statistics straight from their definitions.
 */
export type Recomputed = {
  /** Marks by a key: what stands, and what the answer earns; left out of it are answers that were checked before. */
  marks: { slotId: string; type: string; stands: number; earns: number }[];
  /** By `sitting/user`, of everybody with a handed-in attempt in a scored sitting. */
  results: Map<string, { earned: number; possible: number; waiting: number }>;
  /** By student, also of those who left: what counts of each column, the total in percent, and the band. */
  book: Map<string, { cells: (number | null)[]; total: number | null; band: string }>;
  columns: { id: string; statistics: PlainStatistics }[];
  total: PlainStatistics;
};

/** n, mean, median, deviation ÷ n, least, most; null where there is nothing. */
export type PlainStatistics = [number, number, number, number, number, number] | null;

// biome-ignore lint/suspicious/noExplicitAny: rows and stored JSON as they lie there
type Row = any;

const dayLong = 24 * 60 * 60 * 1000;
const sum = (values: number[]) => values.reduce((total, one) => total + one, 0);
/** Half up, on what twelve digits say. */
export const plainRound = (value: number, decimals: number): number =>
  Number(
    (Math.floor(Number((Math.abs(value) * 10 ** decimals + 0.5).toPrecision(12))) / 10 ** decimals).toFixed(decimals),
  ) * Math.sign(value);

export function recomputed(db: Database, courseId: string, now: number): Recomputed {
  const all = (sql: string, ...values: unknown[]): Row[] => db.prepare(sql).all(...values);
  const json = (text: string | null): Row => (text === null ? null : JSON.parse(text));
  const rules = json(all('select gradebook from course where id = ?', courseId)[0].gradebook) ?? {
    missing: 'not-yet',
    decimals: 1,
    bands: [],
  };
  const sittings = all(
    'select s.*, r.design from sitting s join exam_revision r on r.id = s.revision_id where s.course_id = ?',
    courseId,
  ).map((row) => ({ ...row, design: json(row.design) }));
  const attempts = all(
    "select a.*, r.design from attempt a join sitting s on s.id = a.sitting_id join exam_revision r on r.id = a.revision_id where s.course_id = ? and a.state <> 'voided' order by a.number",
    courseId,
  );
  const slots = all(
    'select p.*, v.content, res.value from paper_slot p join attempt a on a.id = p.attempt_id join sitting s on s.id = a.sitting_id join question_version v on v.id = p.version_id left join response res on res.slot_id = p.id where s.course_id = ? order by p.position',
    courseId,
  );
  const standing = new Map<string, Row>();
  for (const one of all(
    'select m.*, r.policy, v.content as by_content from mark m join paper_slot p on p.id = m.slot_id join attempt a on a.id = p.attempt_id join sitting s on s.id = a.sitting_id join question_version v on v.id = m.version_id left join remarking r on r.id = m.batch where s.course_id = ? and m.outdated = 0 and m.taken_back_at is null order by m.id',
    courseId,
  ))
    standing.set(one.slot_id, one);
  const tried = new Set(all('select distinct slot_id from question_try').map((row) => row.slot_id));

  // What each answer earns by the key that its mark names.
  const marks = slots.flatMap((slot): Recomputed['marks'] => {
    const mark = standing.get(slot.id);
    if (mark?.kind !== 'automatic' || tried.has(slot.id)) return [];
    const answer = json(slot.value);
    const shown = json(slot.presentation) ?? {};
    const [own, by] = [json(slot.content), json(mark.by_content)];
    const credit =
      mark.policy === 'everyone'
        ? 1
        : mark.policy === 'either-key'
          ? Math.max(plainCredit(own, shown, answer), plainCredit(by, shown, answer))
          : plainCredit(by, shown, answer);
    return [{ slotId: slot.id, type: own.type, stands: mark.points, earns: credit * slot.points }];
  });

  // What each attempt earns.
  const added = new Map(
    all('select * from paper_adjustment order by id').map((row) => [row.attempt_id as string, row.points as number]),
  );
  const score = (attempt: Row) => {
    const paper = slots.filter((slot) => slot.attempt_id === attempt.id && standing.get(slot.id)?.kind !== 'left-out');
    const pointsOf = (slot: Row): number | null => standing.get(slot.id)?.points ?? null;
    const waiting = paper.filter((slot) => pointsOf(slot) === null).length;
    let [earned, possible, isCapped] = [0, 0, false];
    for (const partId of new Set<string>(paper.map((slot) => slot.part_id))) {
      const own = paper.filter((slot) => slot.part_id === partId);
      const { choose } = json(attempt.design).parts.find((part: Row) => part.id === partId) ?? {};
      const marked = own.flatMap((slot) => pointsOf(slot) ?? []);
      if (!choose) {
        earned += sum(marked);
        possible += sum(own.map((slot) => slot.points));
        continue;
      }
      const asked = Math.min(choose.count, own.length);
      const most = asked * own[0].points;
      possible += most;
      if (choose.extra === 'credit-in-part') earned += Math.min(most, sum(marked));
      else if (choose.extra === 'credit-in-exam') {
        earned += sum(marked);
        isCapped = true;
      } else earned += Math.max(0, ...subsets(marked, Math.min(asked, marked.length)).map(sum));
    }
    if (isCapped) earned = Math.min(earned, possible);
    const extra = added.get(attempt.id) ?? 0;
    if (extra) earned = Math.min(possible, Math.max(0, earned + extra));
    return { earned, possible, waiting };
  };
  const results: Recomputed['results'] = new Map();
  for (const one of sittings.filter((row) => row.scored && !row.anonymous)) {
    const handedIn = attempts.filter((row) => row.sitting_id === one.id && row.state === 'handed-in');
    for (const userId of new Set<string>(handedIn.map((row) => row.user_id))) {
      const scores = handedIn.filter((row) => row.user_id === userId).map(score);
      const share = (of: Row) => (of.possible > 0 ? of.earned / of.possible : 0);
      const mean = (of: 'earned' | 'possible') => sum(scores.map((row) => row[of])) / scores.length;
      const everywhere = sum(scores.map((row) => row.waiting));
      results.set(
        `${one.id}/${userId}`,
        one.attempt_counts === 'first'
          ? (scores[0] as Row)
          : one.attempt_counts === 'last'
            ? scores.at(-1)
            : one.attempt_counts === 'mean'
              ? { earned: mean('earned'), possible: mean('possible'), waiting: everywhere }
              : {
                  ...(scores.find((row) => share(row) === Math.max(...scores.map(share))) as Row),
                  waiting: everywhere,
                },
      );
    }
  }

  // The columns, with what is set of them.
  const set = all('select * from grade_column where course_id = ? and removed_at is null order by position', courseId);
  const groups = all('select * from grade_group where course_id = ? order by position', courseId);
  const groupOf = (row: Row) => (groups.length ? (row?.group_id ?? null) : 'all');
  const worthOf = (design: Row): number =>
    design.worth ??
    sum(
      design.parts.map((part: Row) => {
        const points = part.lines.flatMap((line: Row) =>
          Array(line.kind === 'draw' ? line.count : line.kind === 'passage' ? line.count * line.questions : 1).fill(
            line.points,
          ),
        );
        return part.choose ? sum(points.slice(0, part.choose.count)) : sum(points);
      }),
    );
  const columns = [
    ...sittings
      .filter((row) => row.counts !== 'no' && row.state === 'scheduled')
      .sort((a, b) => (a.opens ?? -1) - (b.opens ?? -1) || a.created_at - b.created_at)
      .map((row) => {
        const own = set.find((one) => one.id === row.id);
        return { id: row.id, sitting: row, own, worth: own?.worth ?? worthOf(row.design) };
      }),
    ...set
      .filter((row) => row.sitting_id === null)
      .map((row) => ({ id: row.id, sitting: null as Row, own: row, worth: row.worth ?? 0 })),
  ]
    .map((one, i) => ({ ...one, at: one.own?.position ?? 1e9 + i, group: groupOf(one.own) }))
    .sort((a, b) => a.at - b.at);

  const members = all(
    "select * from membership where course_id = ? and role = 'student' and only_sitting is null",
    courseId,
  );
  const published = all('select * from publication where withdrawn_at is null order by id');
  const arranged = all('select * from arrangement');
  const audience = all('select * from sitting_audience');
  const entries = all('select * from grade_entry where course_id = ? and taken_back_at is null order by id', courseId);

  /** What a student earned in a column as a share of it, how many days late, or that it is missing; null for nothing. */
  const cellOf = (member: Row, column: Row): { share: number; late: number } | 'missing' | null => {
    const entry = entries.filter((row) => row.column_id === column.id && row.user_id === member.user_id).at(-1);
    if (entry?.excused) return null;
    const row = column.sitting;
    if (!row) return entry?.points == null ? null : { share: column.worth ? entry.points / column.worth : 0, late: 0 };
    const mine = (one: Row) => one.sitting_id === row.id && one.user_id === member.user_id;
    const own = arranged.find(mine);
    const lasting = json(member.standing) ?? {};
    const told = published.filter((one) => mine(one) && !one.preliminary).at(-1);
    const handed = attempts.filter(mine);
    const due = own?.due ?? (row.due === null ? null : (own?.closes ?? row.due));
    if (told) {
      const rests: string[] = json(told.attempt_ids);
      const late = handed
        .filter((one) => rests.includes(one.id) && one.ended_at !== null && due !== null && one.ended_at > due)
        .map((one) => Math.ceil((one.ended_at - due) / dayLong));
      const earned = row.counts === 'taking-part' ? told.possible : told.earned;
      return { share: told.possible > 0 ? earned / told.possible : 0, late: Math.max(0, ...late) };
    }
    if (own?.excused || lasting.excused) return null;
    if (published.some(mine) || handed.some((one) => one.state === 'handed-in')) return null;
    const isGiven =
      member.removed_at === null &&
      audience.some(
        (one) =>
          one.sitting_id === row.id &&
          (one.kind === 'course' ||
            (one.kind === 'section' && one.ref_id === member.section_id) ||
            (one.kind === 'student' && one.ref_id === member.user_id)),
      );
    if (!isGiven || handed.some((one) => one.state === 'running')) return null;
    const longer =
      row.time_limit === null
        ? 0
        : (row.time_limit * Math.max(own?.extra_percent ?? 0, lasting.extraPercent ?? 0)) / 100 +
          Math.max(own?.extra_minutes ?? 0, lasting.extraMinutes ?? 0) * 60_000;
    const closes = own?.closes ?? (row.closes === null ? null : row.closes + longer);
    const lastStart = own?.last_start ?? (own?.closes == null ? row.last_start : null);
    const ends = [closes, lastStart].filter((one) => one !== null);
    const over = ends.length ? Math.min(...ends) : null;
    return over !== null && over <= now && over > member.added_at ? 'missing' : null;
  };

  const stands = members.map((member) => columns.map((column) => cellOf(member, column)));
  const current = members.map((member) => member.removed_at === null);
  const best = columns.map((column, i) =>
    Math.max(
      0,
      ...stands.flatMap((row, at) =>
        current[at] && row[i] && row[i] !== 'missing' ? row[i].share * column.worth : [],
      ),
    ),
  );
  const counts = (column: Row, i: number, cell: ReturnType<typeof cellOf>): number | null => {
    if (cell === null) return null;
    const isExtra = Boolean(column.own?.extra_credit);
    if (cell === 'missing') return rules.missing === 'zero' && !isExtra ? 0 : null;
    let points = cell.share * column.worth;
    const curve = json(column.own?.curve ?? null);
    if (curve?.kind === 'add') points = Math.max(points, Math.min(column.worth, points + curve.points));
    if (curve?.kind === 'to-maximum' && best[i]) points = Math.max(points, (points * column.worth) / best[i]);
    const late = json(column.own?.late ?? null);
    if (late && cell.late > 0)
      points = Math.max(points - late.perDay * column.worth * cell.late, Math.min(points, late.floor * column.worth));
    return points;
  };
  const weighed = groups.length ? groups : [{ id: 'all', weight: 1, counting: 'points', drop: 0 }];
  const totalOf = (cells: (number | null)[]): number | null => {
    const parts = weighed.flatMap((group) => {
      const own = columns.flatMap((column, i) =>
        column.group === group.id && cells[i] !== null && column.worth > 0
          ? [{ got: cells[i] as number, worth: column.worth, isExtra: Boolean(column.own?.extra_credit) }]
          : [],
      );
      const asked = own.filter((one) => !one.isExtra);
      if (asked.length === 0) return [];
      const share = (kept: typeof asked) =>
        group.counting === 'points'
          ? sum(kept.map((one) => one.got)) / sum(kept.map((one) => one.worth))
          : sum(kept.map((one) => one.got / one.worth)) / kept.length;
      // Every way there is to drop as many, and the best of them.
      const ways = subsets(asked, Math.max(1, asked.length - group.drop));
      const kept = ways.reduce((a, b) => (share(b) > share(a) + 1e-13 ? b : a));
      const extra = sum(
        own
          .filter((one) => one.isExtra)
          .map((one) =>
            group.counting === 'points' ? one.got / sum(kept.map((of) => of.worth)) : one.got / one.worth / kept.length,
          ),
      );
      return [{ weight: group.weight as number, share: share(kept) + extra }];
    });
    const weights = sum(parts.map((part) => part.weight));
    return weights > 0 ? (100 * sum(parts.map((part) => part.weight * part.share))) / weights : null;
  };
  const bandFor = (percent: number | null): string => {
    if (percent === null) return '';
    const reached = rules.bands.filter((band: Row) => plainRound(percent, rules.decimals) >= band.from);
    return (
      (reached.length ? reached : rules.bands.slice(-1)).reduce(
        (top: Row, band: Row) => (top === null || band.from > top.from ? band : top),
        null,
      )?.label ?? ''
    );
  };
  const rows = members.map((member, at) => {
    const cells = columns.map((column, i) => counts(column, i, (stands[at] as Row)[i]));
    const total = totalOf(cells);
    return { member, at, cells, total, band: bandFor(total) };
  });
  const inCourse = rows.filter((row) => current[row.at]);
  return {
    marks,
    results,
    book: new Map(rows.map(({ member, cells, total, band }) => [member.user_id, { cells, total, band }])),
    columns: columns.map((column, i) => ({
      id: column.id,
      statistics: plainStatistics(
        inCourse.flatMap((row) => {
          const cell = (stands[row.at] as Row)[i];
          return cell !== null && cell !== 'missing' && row.cells[i] !== null ? (row.cells[i] as number) : [];
        }),
      ),
    })),
    total: plainStatistics(inCourse.flatMap((row) => row.total ?? [])),
  };
}

/** Every way to take so many out of a list. */
function subsets<One>(list: readonly One[], size: number): One[][] {
  if (size === 0) return [[]];
  if (list.length < size) return [];
  const [first, ...rest] = list as [One, ...One[]];
  return [...subsets(rest, size - 1).map((one) => [first, ...one]), ...subsets(rest, size)];
}

function plainStatistics(values: number[]): PlainStatistics {
  if (values.length === 0) return null;
  const rising = [...values].sort((a, b) => a - b);
  const n = rising.length;
  const mean = sum(rising) / n;
  const middle = [rising[Math.ceil(n / 2) - 1], rising[Math.floor(n / 2)]] as [number, number];
  const squares = sum(rising.map((one) => one * one)) / n;
  return [
    n,
    mean,
    sum(middle) / 2,
    Math.sqrt(Math.max(0, squares - mean * mean)),
    Math.min(...rising),
    Math.max(...rising),
  ];
}

/** What an answer earns by a key, from 0 to 1. */
function plainCredit(key: Row, shown: Row, answer: Row): number {
  if (answer === null) return 0;
  const idIn = (list: Row[] | undefined, sign: string) => list?.find((one) => one.key === sign)?.id;
  const values = shown.values ?? {};
  switch (key.type) {
    case 'true-false':
      return answer.picked === key.answer ? 1 : 0;
    case 'single-choice':
      return key.choices.some((one: Row) => one.right && one.id === idIn(shown.choices, answer.picked)) ? 1 : 0;
    case 'multiple-choice': {
      const picked = answer.picked.map((sign: string) => idIn(shown.choices, sign));
      if (picked.length === 0) return 0;
      const right = key.choices.filter((one: Row) => one.right);
      const hits = right.filter((one: Row) => picked.includes(one.id)).length;
      const wrong = picked.length - hits;
      if (key.rule === 'all-or-nothing') return hits === right.length && wrong === 0 ? 1 : 0;
      if (key.rule === 'wrong-cancels-right') return Math.max(0, (hits - wrong) / right.length);
      return key.choices.filter((one: Row) => one.right === picked.includes(one.id)).length / key.choices.length;
    }
    case 'numeric':
      return plainNumber(key, answer, values);
    case 'short-text':
      return plainText(key.accepted, key.matching, answer.text);
    case 'gap-fill': {
      const parts = key.gaps.map((gap: Row) => {
        const given = answer.gaps[gap.id] ?? '';
        if (gap.kind === 'pick')
          return gap.options.some((one: Row) => one.right && one.id === idIn(shown.lists?.[gap.id], given)) ? 1 : 0;
        return gap.kind === 'number'
          ? plainNumber(gap, { text: given }, values)
          : plainText(gap.accepted, gap.matching, given);
      });
      return (
        sum(parts.map((one: number, i: number) => one * key.gaps[i].weight)) /
        sum(key.gaps.map((gap: Row) => gap.weight))
      );
    }
    case 'matching': {
      const right = key.pairs.filter((pair: Row) =>
        Object.entries(answer.pairs).some(
          ([prompt, option]) =>
            idIn(shown.choices, prompt) === pair.id &&
            idIn(shown.lists.options, option as string)?.trim() === pair.answer.trim(),
        ),
      ).length;
      return key.rule === 'share' || right === key.pairs.length ? right / key.pairs.length : 0;
    }
    case 'ordering': {
      const wanted: string[] = key.items.map((one: Row) => one.id);
      const given: string[] = answer.order.map((sign: string) => idIn(shown.choices, sign));
      if (new Set(given).size !== wanted.length) return 0;
      if (key.rule === 'all-or-nothing') return given.join() === wanted.join() ? 1 : 0;
      if (key.rule === 'in-place') return given.filter((id, i) => id === wanted[i]).length / wanted.length;
      const pairs = subsets(wanted, 2);
      return pairs.filter(([a, b]) => given.indexOf(a as string) < given.indexOf(b as string)).length / pairs.length;
    }
    default:
      // Taking part counts in full; what a person judges has no mark by a key but that of an empty answer.
      return key.type === 'written' ? 0 : 1;
  }
}

function plainNumber(key: Row, answer: Row, values: Record<string, number>): number {
  const typed = /^\s*([-+−]?\d+(?:[.,]\d+)?)(?:\s*\/\s*(\d+))?\s*(\D*)$/.exec(answer.text);
  if (!typed) return 0;
  let x = Number(typed[1]?.replace('−', '-').replace(',', '.')) / Number(typed[2] ?? 1);
  if (key.units) {
    const name = (typed[3]?.trim() || answer.unit) ?? '';
    const unit = key.units.list.find((one: Row) => one.name.toLowerCase() === name.toLowerCase());
    if (!unit && (name !== '' || key.units.missing === 'refuse')) return 0;
    x *= unit?.factor ?? 1;
  } else if (typed[3]?.trim()) return 0;
  const fits = key.accepted.filter((one: Row) => {
    const formula = /^-?[\d.,]+$/.test(one.value) ? one.value.replace(',', '.') : one.value.replaceAll('^', '**');
    const a: number = runInNewContext(formula, { ...plainFunctions, ...values });
    const { kind, amount } = one.tolerance;
    const within =
      kind === 'absolute'
        ? amount
        : kind === 'relative'
          ? amount * Math.abs(a)
          : a === 0
            ? 0
            : 0.5 * 10 ** (Math.floor(Math.log10(Math.abs(a))) - amount + 1);
    return Math.abs(x - a) <= within + 1e-12 * Math.max(1, Math.abs(a));
  });
  return Math.max(0, ...fits.map((one: Row) => one.credit));
}

const plainFunctions = {
  ...Object.fromEntries(
    ['abs', 'sqrt', 'floor', 'ceil', 'exp', 'min', 'max'].map((name) => [name, Math[name as 'abs']]),
  ),
  round: (value: number, decimals = 0) => plainRound(value, decimals),
  mod: (value: number, by: number) => value - by * Math.floor(value / by),
};

function plainText(accepted: Row[], { ignore, slips, wildcards }: Row, text: string): number {
  const folded = (one: string) => {
    let t = one.trim().normalize('NFC');
    if (ignore.case) t = t.toUpperCase().toLowerCase();
    if (ignore.accents) t = t.normalize('NFD').replace(/\p{M}/gu, '');
    return ignore.spacing ? t.replace(/[\s\p{P}]/gu, '') : t;
  };
  const given = folded(text);
  if (text.trim() === '') return 0;
  const fits = accepted.filter((one) => {
    const wanted = folded(one.text);
    if (wildcards) {
      const pattern = one.text
        .trim()
        .replace(/[.+^${}()|[\]\\]/g, '\\$&')
        .replaceAll('*', '.*')
        .replaceAll('?', '.');
      return new RegExp(`^${pattern}$`, ignore.case ? 'iu' : 'u').test(text.trim());
    }
    const most = Math.min(slips, Math.ceil(wanted.length / 3) - 1);
    return wanted === given || (most > 0 && plainDistance(given, wanted) <= most);
  });
  return Math.max(0, ...fits.map((one) => one.credit));
}

/** The fewest slips of one letter that lead from one word to the other, neighbours changed places among them; no digit slips. */
function plainDistance(a: string, b: string): number {
  const [x, y] = [[...a], [...b]];
  const cost = (...letters: (string | undefined)[]) => (letters.some((one) => /\d/.test(one ?? '')) ? 1e6 : 1);
  const seen = new Map<string, number>();
  const from = (i: number, j: number): number => {
    if (i === x.length && j === y.length) return 0;
    const key = `${i},${j}`;
    const known = seen.get(key);
    if (known !== undefined) return known;
    const ways: number[] = [];
    if (i < x.length) ways.push(cost(x[i]) + from(i + 1, j));
    if (j < y.length) ways.push(cost(y[j]) + from(i, j + 1));
    if (i < x.length && j < y.length) ways.push((x[i] === y[j] ? 0 : cost(x[i], y[j])) + from(i + 1, j + 1));
    if (i + 1 < x.length && j + 1 < y.length && x[i] === y[j + 1] && x[i + 1] === y[j])
      ways.push(cost(x[i], x[i + 1]) + from(i + 2, j + 2));
    const least = Math.min(...ways);
    seen.set(key, least);
    return least;
  };
  return from(0, 0);
}

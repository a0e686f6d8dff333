import { dirname, join } from 'node:path';
import { and, asc, desc, eq, isNull, max } from 'drizzle-orm';
import { type BroughtPage, copyName, type Gathered, gather, type KnownLayout } from '@/core/answerSheet/gather';
import { pagesOfSheet } from '@/core/answerSheet/sheetLayout';
import type { Db, Tx } from '@/db/client';
import {
  attempt,
  madeOutSheet,
  type SheetPaperSlot,
  type SheetRowOf,
  sheetLayout,
  sheetPage,
  sheetReading,
  takenCopy,
} from '@/db/schema';
import { mediaFolder } from '../bank/media';
import { type Context, newId } from '../house/context';
import { type AudienceMember, audienceOf, type SittingRow } from '../records/audience';
import { installationSigns, sheetName } from './sheetNames';

/** Where pictures of sheets lie. */
export const sheetFolder = (): string => join(dirname(mediaFolder()), 'sheets');

/** The reading of a sitting that is looked through now. */
export const openReading = (db: Db | Tx, sittingId: string): typeof sheetReading.$inferSelect | undefined =>
  db
    .select()
    .from(sheetReading)
    .where(and(eq(sheetReading.sittingId, sittingId), isNull(sheetReading.appliedAt), isNull(sheetReading.endedAt)))
    .orderBy(desc(sheetReading.startedAt))
    .limit(1)
    .get();

/** The reading of a sitting that is looked through now; one that begins now where there is none. */
export function readingNow(tx: Tx, { now, actor }: Context, sittingId: string): typeof sheetReading.$inferSelect {
  const open = openReading(tx, sittingId);
  if (open) return open;
  const begun = { id: newId(), sittingId, startedAt: now, startedBy: actor.userId, appliedAt: null, endedAt: null };
  tx.insert(sheetReading).values(begun).run();
  return begun;
}

/** The place of the next page of a reading, from 0. */
export function nextPosition(tx: Tx, readingId: string): number {
  const last = tx
    .select({ position: max(sheetPage.position) })
    .from(sheetPage)
    .where(eq(sheetPage.readingId, readingId))
    .get();
  return (last?.position ?? -1) + 1;
}

/** The pages of a reading, in the order in which they came. */
export const pagesOf = (db: Db | Tx, readingId: string): (typeof sheetPage.$inferSelect)[] =>
  db.select().from(sheetPage).where(eq(sheetPage.readingId, readingId)).orderBy(asc(sheetPage.position)).all();

/** A layout with all that reading needs of it. */
type StoredLayout = Pick<typeof sheetLayout.$inferSelect, 'id' | 'plan'> &
  KnownLayout & {
    /** Which question each row belongs to. */
    rowsOf: readonly SheetRowOf[];
    /** Of an anonymous sitting, the paper that it answers. */
    paper: readonly SheetPaperSlot[] | null;
  };
export type SheetLayouts = ReadonlyMap<string, StoredLayout>;

/** The layouts that a sitting's sheets were printed with. */
export function layoutsOf(db: Db | Tx, sittingId: string): SheetLayouts {
  const owners = new Map<string, { owners: Map<number, string>; numbers: Map<number, number> }>();
  for (const { sheet } of db
    .select({ sheet: madeOutSheet })
    .from(madeOutSheet)
    .innerJoin(sheetLayout, eq(sheetLayout.id, madeOutSheet.layoutId))
    .where(eq(sheetLayout.sittingId, sittingId))
    .all()) {
    const own = owners.get(sheet.layoutId) ?? { owners: new Map(), numbers: new Map() };
    own.owners.set(sheet.copy, sheet.userId);
    own.numbers.set(sheet.copy, sheet.number);
    owners.set(sheet.layoutId, own);
  }
  return new Map(
    db
      .select()
      .from(sheetLayout)
      .where(eq(sheetLayout.sittingId, sittingId))
      .all()
      .map(({ id, plan, rows, paper }): [string, StoredLayout] => [
        id,
        {
          id,
          plan,
          rowsOf: rows,
          paper,
          pages: pagesOfSheet(plan),
          asks: JSON.stringify([plan.rows.map(({ kind, label }) => [kind, label]), rows]),
          owners: owners.get(id)?.owners ?? new Map(),
          numbers: owners.get(id)?.numbers ?? new Map(),
        },
      ]),
  );
}

/** Who has handed in an attempt of a sitting. */
export const handedIn = (db: Db | Tx, sittingId: string): ReadonlySet<string> =>
  new Set(
    db
      .selectDistinct({ userId: attempt.userId })
      .from(attempt)
      .where(and(eq(attempt.sittingId, sittingId), eq(attempt.state, 'handed-in')))
      .all()
      .map((one) => one.userId),
  );

/** A reading with everything that is known of it. */
export type OpenedReading = {
  pages: (typeof sheetPage.$inferSelect)[];
  gathered: Gathered;
  layouts: SheetLayouts;
  /** Whose sheets there may be; nobody's in an anonymous sitting. */
  students: AudienceMember[];
  /** What the students of its sheets are called; of an anonymous sitting the sheets themselves, by their copies. */
  names: ReadonlyMap<string, string>;
  /** How many students sheets may come from; null where sheets are nobody's. */
  of: number | null;
  /** Those of whom nothing is in the reading, and who have handed in before. */
  before: ReadonlySet<string>;
};

/** Puts the pages of a reading together; see {@link gather}. */
export function openedReading(db: Db, tx: Db | Tx, sitting: SittingRow, readingId: string): OpenedReading {
  const layouts = layoutsOf(tx, sitting.id);
  const students = sitting.anonymous ? [] : audienceOf(tx, sitting);
  const pages = pagesOf(tx, readingId);
  const gathered = gather(
    pages.map((page): BroughtPage => page),
    {
      installation: installationSigns(db),
      layouts,
      students: new Map(students.map((one) => [one.userId, one.studentNumber])),
      takenOver: sitting.anonymous ? copiesTaken(tx, sitting.id) : null,
    },
  );
  const names = new Map(
    sitting.anonymous
      ? pages.flatMap(({ code }): [string, string][] => (code ? [[copyName(code), sheetName(code.copy)]] : []))
      : students.map((one) => [one.userId, one.name]),
  );
  const read = new Set(gathered.students.map((one) => one.userId));
  const handed = sitting.anonymous ? new Set<string>() : handedIn(tx, sitting.id);
  const before = new Set([...handed].filter((userId) => !read.has(userId)));
  return { pages, gathered, layouts, students, names, of: sitting.anonymous ? null : students.length, before };
}

/** The copies of an anonymous sitting's sheets that were taken over. */
const copiesTaken = (tx: Db | Tx, sittingId: string): ReadonlySet<string> =>
  new Set(
    tx
      .select({ layout: takenCopy.layoutId, copy: takenCopy.copy })
      .from(takenCopy)
      .innerJoin(sheetLayout, eq(sheetLayout.id, takenCopy.layoutId))
      .where(eq(sheetLayout.sittingId, sittingId))
      .all()
      .map(copyName),
  );

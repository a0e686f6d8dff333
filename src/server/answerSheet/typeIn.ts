import { inArray } from 'drizzle-orm';
import { z } from 'zod';
import { layOutSheet } from '@/core/answerSheet/sheetLayout';
import { type SheetRow, signsDoNotFit } from '@/core/answerSheet/sheetRow';
import { typedTwice } from '@/core/answerSheet/typedRow';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Tx } from '@/db/client';
import { sheetPage } from '@/db/schema';
import { newId } from '../house/context';
import { command } from '../house/useCase';
import { audienceOf } from '../records/audience';
import { toNamedSitting } from '../sitting/toSitting';
import { layoutFor, madeOutFor, type SheetOptions, sheetsOfSitting, storedLayouts } from './printAnswerSheets';
import { installationSigns } from './sheetNames';
import { handedIn, layoutsOf, nextPosition, openReading, pagesOf, readingNow } from './sheetPages';

/** Typed sheets are laid out as they are printed unless somebody asks for another size. */
const asUsual: SheetOptions = {
  // Whatever number stands on a paper can be typed.
  grid: { columns: 10, sign: true, point: true, fraction: true, exponent: true },
  whose: 'made-out',
  blanks: 1,
  size: 100,
  perPage: 1,
  bothSides: false,
  trial: false,
};

/** A student whose paper can be typed off, with what was typed so far. */
export type StudentToType = {
  userId: string;
  name: string;
  studentNumber: string | null;
  /** Which of the layouts their paper has. */
  layout: number;
  /** Whether they have handed in: nothing of theirs waits to be typed. */
  isIn: boolean;
  /** How often it was typed: not yet, once, or twice. */
  typed: number;
  /** The signs of each row as they were typed first; null where nothing was. */
  rows: (readonly string[])[] | null;
  /** Rows that were typed twice, differently, and wait in the review. */
  differs: number[];
};

/** What answers are typed into: the rows of each layout, and the students by name. */
export type SheetsToType = { layouts: SheetRow[][]; students: StudentToType[] };

/** Begins to type answers off papers, or goes on. It fixes the sitting's questions, as printing would. */
export const beginTyping = command({
  admits: toNamedSitting('sitting.change'),
  unlogged: 'what is typed counts for nothing until it is taken over',
  does({ tx, context, sittingId, sitting }): Result<SheetsToType> {
    const ahead = sheetsOfSitting(tx, context, sitting, asUsual);
    if (!ahead.ok) return ahead;
    const typed = typedSoFar(tx, sittingId);
    const isIn = handedIn(tx, sittingId);
    const students = ahead.value.layouts.flatMap(({ papers }, layout) =>
      papers.map(({ student: { userId, name, studentNumber } }): StudentToType => {
        const own = typed.get(userId);
        return {
          userId,
          name,
          studentNumber,
          layout,
          isIn: isIn.has(userId),
          typed: own?.typed ?? 0,
          rows: own ? own.rows : null,
          differs: own?.differs ?? [],
        };
      }),
    );
    students.sort((a, b) => a.name.localeCompare(b.name));
    return ok({ layouts: ahead.value.layouts.map((one) => one.plan.rows), students });
  },
});

type Typed = { typed: number; rows: (readonly string[])[]; differs: number[] };

/** What stands typed in the reading that is looked through now, by student. */
function typedSoFar(tx: Tx, sittingId: string): Map<string, Typed> {
  const found = new Map<string, Typed>();
  const reading = openReading(tx, sittingId);
  if (!reading) return found;
  const layouts = layoutsOf(tx, sittingId);
  for (const page of pagesOf(tx, reading.id)) {
    const owner = page.typed ? layouts.get(page.code?.layout ?? '')?.owners.get(page.code?.copy ?? 0) : undefined;
    if (owner === undefined) continue;
    const own = found.get(owner) ?? { typed: page.typed, rows: [], differs: [] };
    for (const { row, filled, doubt } of page.rows) {
      own.rows[row] = filled;
      if (doubt && !page.settled[row]) own.differs.push(row);
    }
    found.set(owner, own);
  }
  return found;
}

const typedInput = z.object({
  userId: id('user'),
  /** The second entry is compared with the first; a first one takes the place of what was typed before. */
  entry: z.union([z.literal(1), z.literal(2)]),
  rows: z
    .array(z.array(z.string().max(4)).max(20))
    .min(1)
    .max(500),
});

/**
 * Keeps what was typed off one student's paper, among the sheets that are looked through now.
 *
 * @returns rows, from 0, in which a second entry differs from the first: they wait for a person
 */
export const typeSheet = command({
  admits: toNamedSitting('sitting.change'),
  takes: [typedInput],
  unlogged: 'what is typed counts for nothing until it is taken over',
  does({ tx, context, sittingId, sitting }, { userId, entry, rows }): Result<{ typed: number; differs: number[] }> {
    if (!audienceOf(tx, sitting).some((one) => one.userId === userId)) return notFound('student');
    const ahead = sheetsOfSitting(tx, context, sitting, asUsual, userId);
    if (!ahead.ok) return ahead;
    const [own] = ahead.value.layouts;
    const paper = own?.papers[0];
    if (!own || !paper) return notFound('student');
    if (rows.length !== own.plan.rows.length)
      return refused('conflict', 'This paper has other rows now: open the page anew. What you typed here is kept.');
    for (const [i, row] of own.plan.rows.entries()) {
      const problem = signsDoNotFit(row, rows[i] ?? []);
      if (problem) return refused('bad-input', `Row ${row.label}: ${problem}`, `row-${i}`);
    }
    const layout = layoutFor(tx, context, sittingId, storedLayouts(tx, sittingId), own);
    const copy = madeOutFor(tx, layout, [paper])[0]?.copy ?? 0;
    const reading = readingNow(tx, context, sittingId);
    const before = pagesOf(tx, reading.id).filter(
      (page) => page.typed > 0 && page.code?.layout === layout.id && page.code.copy === copy,
    );
    const first = new Map(before.flatMap((page) => page.rows.map((one) => [one.row, one.filled])));
    if (before.length)
      tx.delete(sheetPage)
        .where(
          inArray(
            sheetPage.id,
            before.map((page) => page.id),
          ),
        )
        .run();
    const isSecond = entry === 2 && before.length > 0;
    const differs: number[] = [];
    let position = nextPosition(tx, reading.id);
    for (const [n, page] of layOutSheet(own.plan).entries()) {
      const here = [...new Set(page.boxes.map((box) => box.row))];
      const readings = here.map((row) => typedTwice(row, isSecond ? first.get(row) : undefined, rows[row] ?? []));
      differs.push(...readings.flatMap((one) => (one.doubt ? one.row : [])));
      tx.insert(sheetPage)
        .values({
          id: newId(),
          readingId: reading.id,
          position: position++,
          source: `typed by ${context.actor.name}`,
          problem: null,
          code: { installation: installationSigns(context.db), layout: layout.id, copy, page: n + 1 },
          rows: readings,
          settled: {},
          named: null,
          typed: isSecond ? 2 : 1,
          picture: null,
          attemptId: null,
        })
        .run();
    }
    return ok({ typed: isSecond ? 2 : 1, differs });
  },
});

import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { parseArgs } from 'node:util';
import { and, eq, or } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import { usualGrid } from '../src/core/answerSheet/questionRows';
import { type Grade, grades } from '../src/core/answerSheet/standIn';
import { database } from '../src/db/client';
import { sitting, user } from '../src/db/schema';
import { fillSheets } from '../src/print/fillSheets';
import { orderOfSheets } from '../src/server/answerSheet/printAnswerSheets';
import { audienceOf } from '../src/server/records/audience';

/**
 * The stand-in for printer and scanner, from the command line: prints the answer sheets of a sitting, has a made-up class
 * fill them in, and leaves what a copier or a phone would give, with the truth beside it:
 * WUZZEN_DATA=data/demo npm run sheets -- --sitting 'Quiz on paper' --grade phone --out /tmp/sheets
 */
const { values } = parseArgs({
  options: {
    sitting: { type: 'string', default: '' },
    grade: { type: 'string', default: 'copier' },
    out: { type: 'string', default: '' },
    seed: { type: 'string', default: 'a made-up class' },
    size: { type: 'string', default: '100' },
    'per-page': { type: 'string', default: '1' },
    blanks: { type: 'string', default: '0' },
  },
});
const blanks = Number(values.blanks);
const size = Number(values.size);
const perPage = Number(values['per-page']) as 1 | 2 | 4;
const grade = values.grade as Grade;

function end(why: string): never {
  console.error(
    `${why}\n  npm run sheets -- --sitting TITLE --out FOLDER [--grade ${grades.join('|')}] [--seed WORDS] [--size 70…120] [--per-page 1|2|4] [--blanks N]`,
  );
  process.exit(1);
}
if (!values.sitting || !values.out) end('Name the sitting, and the folder into which the pictures go.');
if (!grades.includes(grade)) end(`There is no grade “${values.grade}”.`);
if (![1, 2, 4].includes(perPage)) end('One, two or four sheets stand on a page.');
if (!(size >= 70 && size <= 120) || !Number.isInteger(size)) end('The size is from 70 to 120 percent.');
if (!Number.isInteger(blanks) || blanks < 0 || blanks > 1_000) end('Up to 1,000 blanks.');

const db = database();
const rows = db
  .select()
  .from(sitting)
  .where(and(eq(sitting.state, 'scheduled'), or(eq(sitting.id, values.sitting), eq(sitting.title, values.sitting))))
  .all();
const [row] = rows;
if (!row) end(`There is no scheduled sitting “${values.sitting}” in this folder.`);
if (rows.length > 1) end(`${rows.length} sittings are called “${values.sitting}”: name one by its id.`);
const who = db.select({ name: user.name }).from(user).where(eq(user.id, row.createdBy)).get();
const context = { db, actor: { userId: row.createdBy, name: who?.name ?? '' }, now: Date.now() };
const ordered = db.transaction((tx) => {
  const order = orderOfSheets(tx, context, row, {
    whose: blanks > 0 ? 'blank' : 'made-out',
    blanks: Math.max(1, blanks),
    size,
    perPage,
    bothSides: false,
    grid: usualGrid,
    trial: false,
  });
  return { order, numbers: audienceOf(tx, row).flatMap((one) => one.studentNumber ?? []) };
});
if (!ordered.order.ok) end(ordered.order.problems.map((one) => one.message).join(' '));
const order = ordered.order.value;
const files = unzipSync(
  await fillSheets({ order, grade, seed: values.seed, numbers: ordered.numbers }, (done) =>
    process.stdout.write(`\r${done} of ${order.sheets.length} sheets`),
  ),
);
for (const [name, bytes] of Object.entries(files)) {
  const path = join(values.out, name);
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, bytes);
}
console.log(`\n${Object.keys(files).length} files in ${values.out}: pictures, scan.pdf, truth.json.`);
process.exit(0);

import {
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { hour } from '@/core/base/time';
import { fillSheets } from '@/print/fillSheets';
import { lockedPdf } from '../testing/lockedPdf';
import { PaperSheets, withoutPrinter } from '../testing/paperSheets';
import { must, School } from '../testing/school';
import { seeReading } from './seeReading';
import { WatchedFolder } from './watchFolder';

withoutPrinter();

let school: School;
let sheets: PaperSheets;
let folder: string;
beforeEach(() => {
  school = new School(2);
  school.questions(4);
  sheets = new PaperSheets(school, school.sitting(school.exam([school.draw(3)])));
  folder = mkdtempSync(join(tmpdir(), 'wuzzen-watched-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const put = (name: string, bytes: Uint8Array) => writeFileSync(join(folder, name), bytes);
const reading = () => must(seeReading(sheets.teacher(), school.courseId, sheets.sittingId));
const why = (name: string) => readFileSync(join(folder, 'not-read', `${name}.txt`), 'utf8').trim();

it('what a copier puts into the folder waits in its sitting; what is no sheet is put away with the reason', async () => {
  const order = await sheets.print({ perPage: 4 });
  const files = unzipSync(await fillSheets({ order, grade: 'copier', seed: 'watched', numbers: [] }));
  const watched = new WatchedFolder(school.db, folder, () => school.as(school.teacher, hour).now);
  put('scan.pdf', files['scan.pdf'] as Uint8Array);
  // It may still be written: it is taken once it has lain still.
  expect(await watched.look()).toBe(0);
  put('scan.pdf', new Uint8Array([...(files['scan.pdf'] as Uint8Array), 10]));
  utimesSync(join(folder, 'scan.pdf'), new Date(), new Date(Date.now() + 5_000));
  expect(await watched.look()).toBe(0);
  expect(await watched.look()).toBe(1);
  expect(reading()?.pages.map((page) => [page.source, page.student?.name, page.hasPicture])).toEqual([
    ['scan.pdf, page 1', 'Student 1', true],
    ['scan.pdf, page 2', 'Student 2', true],
  ]);
  expect(existsSync(join(folder, 'read', 'scan.pdf'))).toBe(true);

  const white = await sharp({ create: { width: 900, height: 1_200, channels: 3, background: '#fff' } })
    .png()
    .toBuffer();
  put('white.png', white);
  put('notes.txt', new TextEncoder().encode('words'));
  put('torn.pdf', (files['scan.pdf'] as Uint8Array).slice(0, 900));
  put('.hidden', white);
  // A picture of the first sheet once more: read already.
  put('again.jpg', files['001.jpg'] as Uint8Array);
  await watched.look();
  expect(await watched.look()).toBe(1);
  expect(why('white.png')).toBe('No answer sheet that was printed here was found in it.');
  expect(why('notes.txt')).toBe('It is neither a PDF nor a picture.');
  expect(why('torn.pdf')).toBe('It is damaged, or needs a password.');
  expect(reading()?.pages.map((page) => page.aside)).toEqual([null, null, 'read-already']);
  expect(readdirSync(folder).sort()).toEqual(['.hidden', 'not-read', 'read']);
});

it('a file that is too large or locked is put away in words, and of one with a broken page the others go on', async () => {
  const order = await sheets.print({ perPage: 4 });
  const files = unzipSync(await fillSheets({ order, grade: 'copier', seed: 'watched', numbers: [] }));
  const scan = (files['scan.pdf'] as Uint8Array).slice();
  // What lies within the first picture is lost, as on a disk that fails.
  const picture = Buffer.from(scan).indexOf(Buffer.from([0xff, 0xd8, 0xff]));
  scan.fill(0, picture, picture + 20_000);
  put('broken.pdf', scan);
  put('locked.pdf', lockedPdf());
  writeFileSync(join(folder, 'huge.pdf'), '%PDF-1.4');
  truncateSync(join(folder, 'huge.pdf'), 2_000_000_000);
  const watched = new WatchedFolder(school.db, folder, () => school.as(school.teacher, hour).now);
  await watched.look();
  expect(await watched.look()).toBe(1);
  expect(why('huge.pdf')).toBe('It is larger than 1 GB: divide it.');
  expect(why('locked.pdf')).toBe('It is damaged, or needs a password.');
  expect(reading()?.pages.map((page) => [page.source, page.aside, page.student?.name])).toEqual([
    ['broken.pdf, page 1', 'no-sheet', undefined],
    ['broken.pdf, page 2', null, 'Student 2'],
  ]);
});

it('a page that is no sheet goes with those of the same file, and nothing is lost on the way', async () => {
  const order = await sheets.print({ perPage: 4 });
  const files = unzipSync(await fillSheets({ order, grade: 'copier', seed: 'watched', numbers: [] }));
  // The same name twice: the one that was there stays.
  const watched = new WatchedFolder(school.db, folder, () => school.as(school.teacher, hour).now);
  for (const name of ['001.jpg', '002.jpg']) {
    put('sheet.jpg', files[name] as Uint8Array);
    await watched.look();
    await watched.look();
  }
  expect(readdirSync(join(folder, 'read'))).toHaveLength(2);
  expect(reading()?.pages).toHaveLength(2);
});

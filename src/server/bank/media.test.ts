import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { everyQuestion } from '@/core/bank/questionFilter';
import { richFromText } from '@/core/base/rich';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { bank, category, courseBank, exam, mediaBank, membership } from '@/db/schema';
import { handIn } from '../attempt/handIn';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import { samplePaper } from '../exam/samplePaper';
import { newId } from '../house/context';
import { choiceContent, must, refusal, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { copyQuestions } from './copyQuestions';
import { looksLikeSvg, mediaFile, openMedia, storeMedia } from './media';
import { listPassages, savePassage } from './passages';
import { listQuestions } from './questionList';
import { createQuestion, openQuestion, saveQuestion } from './questions';

let school: School;
let folder: string;
const teacher = () => school.as(school.teacher);
const where = () => [school.courseId, school.bankId] as const;
const store = (bytes: Uint8Array) => storeMedia({ ...teacher(), files: folder }, ...where(), bytes);
const text = (words: string) => new TextEncoder().encode(words);
const png = () =>
  sharp({ create: { width: 40, height: 20, channels: 3, background: '#1b3f60' } })
    .png()
    .toBuffer();
const message = (result: Awaited<ReturnType<typeof store>>) => (result.ok ? '' : (result.problems[0]?.message ?? ''));

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'wuzzen-media-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
beforeEach(() => {
  school = new School(2);
});

describe('a stored file', () => {
  it('is known by its content, packed anew and stored once', async () => {
    const photo = await sharp(await png())
      .jpeg()
      .withExif({ IFD0: { Copyright: 'where it was taken' } })
      .toBuffer();
    expect(photo.includes(Buffer.from('where it was taken'))).toBe(true);
    const stored = must(await store(photo));
    expect(stored).toMatchObject({ kind: 'picture', width: 40, height: 20 });
    expect(must(await store(photo)).hash).toBe(stored.hash);
    const kept = await sharp(mediaFile(stored.hash, folder)).metadata();
    expect(kept.exif).toBeUndefined();
    expect(readdirSync(join(folder, stored.hash.slice(0, 2)))).toEqual([stored.hash]);
  });

  it('of a drawing becomes dots, whatever scripts it held', async () => {
    const drawing = `<?xml version="1.0"?><!-- chart --><svg xmlns="http://www.w3.org/2000/svg" width="60" height="30" onload="alert(1)"><script>alert(1)</script><image href="file:///etc/passwd"/><circle cx="10" cy="10" r="8" fill="red"/></svg>`;
    const stored = must(await store(text(drawing)));
    const kept = await sharp(mediaFile(stored.hash, folder)).metadata();
    expect(kept.format).toBe('png');
    expect(stored.kind).toBe('picture');
    const entities =
      '<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">]><svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>';
    expect(message(await store(text(entities)))).toContain('entities');
  });

  it.each([
    ['a page under a picture’s name', text('<html><script>alert(1)</script></html>')],
    ['a program', Buffer.concat([Buffer.from('\x7fELF'), Buffer.alloc(200)])],
    ['nothing', new Uint8Array()],
    ['a picture cut off', Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex')],
    ['words', text('just words')],
  ])('is refused where it is %s', async (_, bytes) => {
    expect(refusal(await store(bytes))).toBe('bad-input');
  });

  it('is refused where it unpacks to far too many dots, or is too large', async () => {
    const huge = await sharp({
      create: { width: 9_000, height: 9_000, channels: 3, background: 'white' },
      limitInputPixels: false,
    })
      .png()
      .toBuffer();
    expect(huge.length).toBeLessThan(1_000_000);
    expect(message(await store(huge))).toContain('cannot be read');
    const sound = Buffer.concat([
      Buffer.from('ID3\x03\x00\x00\x00\x00\x00\x00'),
      Buffer.from([0xff, 0xfb, 0x90, 0x44]),
      Buffer.alloc(20_000_100),
    ]);
    expect(message(await store(sound))).toContain('at most 20 MB');
  });
});

const withPictures = (hash: string): QuestionContent => ({
  ...choiceContent('what is this?'),
  stem: {
    type: 'doc',
    content: [{ type: 'media', attrs: { hash, kind: 'picture', alt: 'a mark', width: 40, height: 20 } }],
  },
});

describe('a drawing', () => {
  it('is known by how it begins, whatever declarations and comments stand before it', () => {
    const isSvg = (words: string) => looksLikeSvg(text(words));
    for (const words of [
      '<svg xmlns="x">',
      '\ufeff<?xml version="1.0"?>\n<!-- a > b -->\n<!DOCTYPE svg PUBLIC "x" "y">\n<SVG>',
      '<!DOCTYPE svg [<!ENTITY a "<b>">]><svg/>'.replace('/>', '>'),
      `${'<!---->'.repeat(500)}<svg>`,
    ])
      expect(isSvg(words), words.slice(0, 40)).toBe(true);
    for (const words of [
      '',
      'svg',
      '<svgs>',
      '<!-- <svg> ',
      '<?xml <svg',
      '<html><svg>',
      '<!DOCTYPE [ <svg>',
      `${'<!--'.repeat(70)}x`,
    ])
      expect(isSvg(words), words).toBe(false);
  });
});

describe('who may see a file', () => {
  it('who works with its bank, and a student only while it stands on a running paper', async () => {
    const { hash } = must(await store(await png()));
    const sees = (actor: typeof school.teacher) => openMedia(school.as(actor, minute), hash).ok;
    const [ada, ben] = school.students as [typeof school.teacher, typeof school.teacher];
    expect([sees(school.teacher), sees(school.marker), sees(ada), sees(school.elsewhere.teacher)]).toEqual([
      true,
      true,
      false,
      false,
    ]);
    const questionId = school.question(withPictures(hash));
    const sittingId = school.sitting(school.exam([school.fixed(questionId)]));
    expect(sees(ada)).toBe(false);
    const { attemptId } = must(startAttempt(school.as(ada, minute), sittingId));
    expect([sees(ada), sees(ben)]).toEqual([true, false]);
    must(handIn(school.as(ada, 2 * minute), attemptId));
    expect(sees(ada)).toBe(false);
    expect(openMedia(teacher(), '0'.repeat(64)).ok).toBe(false);
    expect(openMedia(teacher(), '../../etc/passwd').ok).toBe(false);
  });

  it('and that student only from where the sitting may be taken, while they are in the course', async () => {
    const { hash } = must(await store(await png()));
    const sittingId = school.sitting(school.exam([school.fixed(school.question(withPictures(hash)))]), {
      further: { networks: ['10.1.0.0/16'] },
    });
    const [ada] = school.students as [typeof school.teacher];
    const from = (address: string) => ({ ...school.as(ada, minute), address });
    must(startAttempt(from('10.1.2.3'), sittingId));
    const sees = (address: string) => openMedia(from(address), hash).ok;
    expect([sees('10.1.9.9'), sees('8.8.8.8')]).toEqual([true, false]);
    school.db.update(membership).set({ removedAt: 1 }).where(eq(membership.userId, ada.userId)).run();
    expect(sees('10.1.9.9')).toBe(false);
  });

  it('also where it stands in the passage of a question on the paper', async () => {
    const { hash } = must(await store(await png()));
    const { passageId } = must(
      savePassage(teacher(), ...where(), null, { shortName: 'chart', content: withPictures(hash).stem }),
    );
    const questionId = must(
      createQuestion(teacher(), ...where(), { categoryId: school.categoryId, passageId, content: choiceContent('q') }),
    ).questionId;
    const sittingId = school.sitting(school.exam([school.fixed(questionId)]));
    const [ada] = school.students as [typeof school.teacher];
    must(startAttempt(school.as(ada, minute), sittingId));
    expect(openMedia(school.as(ada, minute), hash).ok).toBe(true);
  });
});

describe('questions that show files', () => {
  it('are copied into another bank with their files, and name no file that is not there', async () => {
    const { hash } = must(await store(await png()));
    school.question(withPictures(hash));
    school.question(withPictures('f'.repeat(64)));
    const other = newId();
    school.db.insert(bank).values({ id: other, name: 'Second', createdBy: 'x', createdAt: 0 }).run();
    school.db.insert(courseBank).values({ courseId: school.courseId, bankId: other }).run();
    school.db.insert(category).values({ id: newId(), bankId: other, name: 'General', position: 0 }).run();
    const { copied, auditId } = must(copyQuestions(teacher(), ...where(), { filter: everyQuestion, but: [] }, other));
    expect(copied).toBe(2);
    expect(school.db.select().from(mediaBank).where(eq(mediaBank.bankId, other)).all()).toHaveLength(1);
    const list = () => must(listQuestions(teacher(), school.courseId, other, everyQuestion)).total;
    expect(list()).toBe(2);
    must(undoChange(teacher(), school.courseId, auditId ?? 0));
    expect(list()).toBe(0);
  });
});

describe('passages', () => {
  it('come with their questions, and keep on papers what they said', () => {
    const [ada] = school.students as [typeof school.teacher];
    const save = (passageId: string | null, words: string, edit?: number) =>
      savePassage(teacher(), ...where(), passageId, {
        shortName: 'report',
        content: richFromText(words),
        ...(edit ? { edit } : {}),
      });
    const { passageId } = must(save(null, 'Wind south-west'));
    for (const stem of ['one', 'two', 'three'])
      must(
        createQuestion(teacher(), ...where(), {
          categoryId: school.categoryId,
          passageId,
          content: choiceContent(stem),
        }),
      );
    expect(must(listPassages(teacher(), ...where()))).toMatchObject([{ questions: 3, version: 1, frozen: false }]);
    must(save(passageId, 'Wind south', 1));
    const sittingId = school.sitting(
      school.exam([
        {
          kind: 'passage',
          id: 'line-passage',
          count: 1,
          questions: 2,
          points: 1,
          pool: { categories: [{ id: school.categoryId, below: true }], difficulties: [] },
        },
      ]),
    );
    const examId = school.db.select().from(exam).get()?.id ?? '';
    const sample = must(samplePaper(teacher(), school.courseId, examId, '1')).slots;
    expect(sample.map((slot) => slot.passage)).toEqual([richFromText('Wind south'), null]);
    const { attemptId } = must(startAttempt(school.as(ada, minute), sittingId));
    expect(must(save(passageId, 'Wind north', 2)).version).toBe(2);
    expect(refusal(save(passageId, 'Wind west', 1))).toBe('conflict');
    const opened = must(openForWriting(school.as(ada, 2 * minute), attemptId));
    expect(opened.slots).toHaveLength(2);
    expect(new Set(opened.slots.map((slot) => slot.passage)).size).toBe(1);
    expect(Object.values(opened.passages)).toEqual([richFromText('Wind south')]);
  });

  it('are chosen on a question’s sheet, only those of its bank', () => {
    const id = school.question(choiceContent('q'));
    const { edit, content } = must(openQuestion(teacher(), ...where(), id));
    const save = (passageId: string | null) =>
      saveQuestion(teacher(), ...where(), id, { categoryId: school.categoryId, content, edit, passageId });
    expect(refusal(save('of another bank'))).toBe('not-found');
    expect(refusal(savePassage(teacher(), ...where(), null, { shortName: '', content: richFromText(' ') }))).toBe(
      'bad-input',
    );
    const { passageId } = must(
      savePassage(teacher(), ...where(), null, { shortName: 'p', content: richFromText('p') }),
    );
    must(save(passageId));
    expect(must(openQuestion(teacher(), ...where(), id)).passageId).toBe(passageId);
  });
});

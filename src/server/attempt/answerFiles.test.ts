import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { hour, minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { must, refusal, School, writtenContent } from '../testing/school';
import { openAnswerFile, takeAnswerFile } from './answerFiles';
import { handIn } from './handIn';
import { startAttempt } from './startAttempt';
import { openForWriting } from './takeAttempt';

let school: School;
let folder: string;
let attemptId: string;
let slots: string[];
const ada = () => school.students[0] as typeof school.teacher;
const send = (
  bytes: Uint8Array,
  more: { slot?: string; who?: typeof school.teacher; later?: number; name?: string } = {},
) =>
  takeAnswerFile(
    { ...school.as(more.who ?? ada(), more.later ?? 2 * minute), files: folder },
    attemptId,
    more.slot ?? (slots[0] as string),
    more.name ?? 'plan.pdf',
    bytes,
  );
const pdf = Buffer.from('%PDF-1.7\n1 0 obj\n<<>>\nendobj\ntrailer\n<<>>\n%%EOF');

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'wuzzen-answers-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
beforeEach(() => {
  school = new School(2);
  const withFiles: QuestionContent = {
    ...(writtenContent('hand in a plan') as Extract<QuestionContent, { type: 'written' }>),
    files: { most: 1, kinds: ['pdf', 'text', 'document'], megabytes: 0.01 },
  };
  const ids = [school.question(withFiles), school.question(writtenContent('no files'))];
  const sittingId = school.sitting(school.exam(ids.map((id) => school.fixed(id))));
  attemptId = must(startAttempt(school.as(ada(), minute), sittingId)).attemptId;
  slots = must(openForWriting(school.as(ada(), minute), attemptId)).slots.map((slot) => slot.slotId);
});

describe('a file for an answer', () => {
  it('is taken by its content, whatever it is called', async () => {
    expect(must(await send(pdf, { name: '../../x.exe' })).id).toBeTruthy();
    must(await send(strToU8('plain words, ümlaut')));
    const docx = zipSync({
      '[Content_Types].xml': strToU8(
        '<Types><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
      ),
      'word/document.xml': strToU8('<w:document/>'),
    });
    must(await send(docx));
    for (const bytes of [
      Buffer.from('89504e470d0a1a0a0000000d4948445200000001', 'hex'),
      Buffer.concat([Buffer.from('\x7fELF'), Buffer.alloc(64)]),
      Buffer.from([0xff, 0xfe, 0xfa, 0x80]),
      zipSync({ 'a.txt': strToU8('x') }),
      Buffer.alloc(0),
      Buffer.concat([pdf, Buffer.alloc(10_000, 32)]),
    ])
      expect(refusal(await send(bytes))).toBe('bad-input');
  });

  it('is taken only for a question that asks for files, from its student, while the attempt runs', async () => {
    expect(refusal(await send(pdf, { slot: slots[1] }))).toBe('not-found');
    expect(refusal(await send(pdf, { slot: 'elsewhere' }))).toBe('not-found');
    expect(refusal(await send(pdf, { who: school.students[1] }))).toBe('not-found');
    expect(refusal(await send(pdf, { later: 3 * hour }))).toBe('too-late');
  });

  it('is not taken after the hand-in', async () => {
    must(handIn(school.as(ada(), 5 * minute), attemptId));
    expect(refusal(await send(pdf, { later: 6 * minute }))).toBe('too-late');
  });

  it('is not taken without end', async () => {
    for (let i = 0; i < 10; i++) must(await send(Buffer.concat([pdf, Buffer.from(String(i))])));
    expect(refusal(await send(pdf))).toBe('conflict');
  });

  it('is given to its student and to those who mark it, under a harmless name', async () => {
    const { id } = must(await send(pdf, { name: 'a/b\u0000c.pdf' }));
    const sees = (actor: typeof school.teacher) => openAnswerFile(school.as(actor), id).ok;
    expect([sees(ada()), sees(school.teacher)]).toEqual([true, true]);
    expect([
      sees(school.students[1] as typeof school.teacher),
      sees(school.marker),
      sees(school.elsewhere.teacher),
    ]).toEqual([false, false, false]);
    expect(must(openAnswerFile(school.as(ada()), id)).name).toBe('a b c.pdf');
    expect(openAnswerFile(school.as(ada()), 'unknown').ok).toBe(false);
  });
});

import { readFileSync } from 'node:fs';
import { strToU8, zipSync } from 'fflate';
import { beforeEach, describe, expect, it } from 'vitest';
import { everyQuestion } from '@/core/bank/questionFilter';
import { seeCategories } from '../bank/categories';
import { createObjective } from '../bank/objectives';
import { listQuestions } from '../bank/questionList';
import { writeXlsx } from '../house/writeXlsx';
import { readDocx } from '../outside/readDocx';
import { readXlsx } from '../outside/readXlsx';
import { unpackLimits } from '../outside/unpack';
import { choiceContent, must, numberContent, refusal, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { bringIn, takeOut } from './bringIn';
import { previewFile, previewText } from './preview';

let school: School;
const teacher = () => school.as(school.teacher);
const where = () => [school.courseId, school.bankId] as const;
const file = (bytes: Uint8Array) => previewFile(teacher(), ...where(), bytes, null);
const text =
  '1. First?\na) x\n*b) y\n2. Second?\nAnswer: 12\nCategory: Tides > Heights\nObjective: n1\n3. Broken\na) x\nb) y';
const total = () => must(listQuestions(teacher(), ...where(), everyQuestion)).total;

beforeEach(() => {
  school = new School(1);
});

const paragraph = (inner: string, list = '') =>
  `<w:p>${list ? `<w:pPr><w:numPr>${list}</w:numPr></w:pPr>` : ''}${inner}</w:p>`;
const run = (words: string, look = '') =>
  `<w:r>${look ? `<w:rPr>${look}</w:rPr>` : ''}<w:t xml:space="preserve">${words}</w:t></w:r>`;
const docx = (body: string, numbering = '') =>
  zipSync({
    '[Content_Types].xml': strToU8('<Types/>'),
    'word/document.xml': strToU8(`<?xml version="1.0"?><w:document xmlns:w="w"><w:body>${body}</w:body></w:document>`),
    ...(numbering ? { 'word/numbering.xml': strToU8(`<w:numbering xmlns:w="w">${numbering}</w:numbering>`) } : {}),
  });

describe('bringing in', () => {
  it('previews without storing, takes what is chosen, and goes back with one undo', async () => {
    must(createObjective(teacher(), ...where(), { code: 'N1', wording: 'w' }));
    const preview = must(await previewText(teacher(), ...where(), { kind: 'text', text }));
    expect(preview.counts).toEqual({ new: 2, ask: 0, there: 0, unreadable: 1, unreadLines: 0 });
    expect(preview.items[2]).toMatchObject({
      at: 8,
      state: 'unreadable',
      problems: [{ message: 'No choice is marked as right.' }],
    });
    expect(total()).toBe(0);
    const items = preview.items.filter((item) => item.state === 'new');
    const { added, auditId } = must(bringIn(teacher(), ...where(), { categoryId: school.categoryId, items }));
    expect(added).toBe(2);
    expect(must(seeCategories(teacher(), ...where())).map((node) => `${node.name} ${node.own}`)).toEqual([
      'General 1',
      'Tides 0',
      'Heights 1',
    ]);
    expect(must(listQuestions(teacher(), ...where(), { ...everyQuestion, text: 'second' })).total).toBe(1);
    const again = must(
      await previewText(teacher(), ...where(), { kind: 'text', text: `${text}\n4. first\na) X\n*b) Y` }),
    );
    expect(again.items.map((item) => item.state)).toEqual(['there', 'there', 'unreadable', 'there']);
    must(undoChange(teacher(), school.courseId, auditId));
    expect(total()).toBe(0);
    expect(must(await previewText(teacher(), ...where(), { kind: 'text', text })).counts.new).toBe(2);
  });

  it('takes all or nothing', () => {
    const good = { content: choiceContent('good') };
    const bad = { content: { ...choiceContent('bad'), choices: [] } };
    const never = {
      content: {
        ...numberContent('n', 'a'),
        variables: [{ id: 'v0', name: 'a', source: { kind: 'range', from: 1, to: 2, step: 1 } }],
        constraints: ['a > 2'],
      },
    };
    for (const items of [[good, bad], [good, never], []])
      expect(refusal(bringIn(teacher(), ...where(), { categoryId: school.categoryId, items }))).toBe('bad-input');
    expect(refusal(bringIn(teacher(), ...where(), { categoryId: 'nowhere', items: [good] }))).toBe('not-found');
    expect(total()).toBe(0);
  });

  it('goes on in steps under one undo, in order, and not once that was taken back or by anybody else', () => {
    const step = (from: number, joins: number | null, actor = school.teacher) =>
      bringIn(school.as(actor), school.courseId, school.bankId, {
        categoryId: school.categoryId,
        items: [0, 1, 2].map((i) => ({ content: choiceContent(`Step ${from + i}`) })),
        joins,
      });
    const { auditId } = must(step(0, null));
    expect(must(step(3, auditId))).toEqual({ added: 3, auditId });
    must(step(6, auditId));
    const rows = () =>
      must(listQuestions(school.as(school.teacher), school.courseId, school.bankId, everyQuestion)).rows;
    const steps = () => rows().flatMap((row) => /^Step (\d)/.exec(row.text)?.[1] ?? []);
    expect(steps()).toEqual(['0', '1', '2', '3', '4', '5', '6', '7', '8']);
    const colleague = school.add('Cleo', 'instructor');
    expect(refusal(step(9, auditId, colleague))).toBe('conflict');
    expect(steps()).toHaveLength(9);
    must(undoChange(school.as(school.teacher), school.courseId, auditId));
    expect(steps()).toEqual([]);
    expect(refusal(step(9, auditId))).toBe('conflict');
    expect(steps()).toEqual([]);
  });

  it('takes the whole bank out to a table that reads back to the same questions', async () => {
    const both = [choiceContent('one'), numberContent('two', '3/4', 0.5)];
    // All at one instant, as a file brings them: twelve more would stand in any order if the order were not kept.
    const many = Array.from({ length: 12 }, (_, i) => choiceContent(`more ${i}`));
    for (const content of [...both, ...many]) school.question(content);
    const table = must(takeOut(teacher(), ...where(), everyQuestion));
    const other = must(
      await previewFile(
        school.as(school.elsewhere.teacher),
        school.elsewhere.courseId,
        school.elsewhere.bankId,
        await writeXlsx('bank', table),
        null,
      ),
    );
    expect(other.items.map((item) => item.content)).toEqual(JSON.parse(JSON.stringify([...both, ...many])));
    const same = must(await file(await writeXlsx('bank', table)));
    expect(same.counts).toMatchObject({ new: 0, there: 14, unreadable: 0 });
  });

  it('remembers what the columns of a table are', async () => {
    const csv = (cell: string) => new TextEncoder().encode(`Question text;Extra\n${cell};12\n`);
    const first = must(await file(csv('How many?')));
    expect(first.columns?.fields).toEqual(['text', 'ignore']);
    expect(first.items[0]?.type).toBe('Written answer');
    const { headings, rows, hasHeadings } = first.columns as NonNullable<typeof first.columns>;
    const mapped = must(
      await previewText(teacher(), ...where(), {
        kind: 'table',
        headings,
        rows,
        hasHeadings,
        fields: ['text', 'answer'],
      }),
    );
    expect(mapped.items[0]?.type).toBe('Numeric');
    expect(must(await file(csv('And how many?'))).columns?.fields).toEqual(['text', 'answer']);
  });
});

describe('what a person says of lines', () => {
  const odd = 'Vraag: Which side is green?\nport\nstarboard\nVraag: Which side is red?\nport\nstarboard';
  const read = async (said: Record<string, string>, forget: string[] = [], who = school) =>
    must(
      await previewText(who.as(who.teacher), who.courseId, who.bankId, {
        kind: 'text',
        text: odd,
        said,
        forget,
      } as never),
    );

  it('holds for all lines of the same form, the next time too, and until it is forgotten', async () => {
    expect((await read({})).counts).toMatchObject({ new: 0, unreadLines: 6 });
    const said = await read({ 0: 'question' });
    expect(said.items.map((one) => one.title)).toEqual(['Vraag: Which side is green?', 'Vraag: Which side is red?']);
    expect(said.taught).toEqual({ 'word/vraag': 'question' });
    const later = await read({ 1: 'choice', 2: 'right', 4: 'right', 5: 'choice' });
    expect(later.items.map((one) => one.state)).toEqual(['new', 'new']);
    expect(later.items[1]?.content).toMatchObject({ choices: [{ right: true }, { right: false }] });
    expect((await read({}, ['word/vraag'])).items).toEqual([]);
    expect((await read({})).taught).toEqual({});
  });

  it('is remembered for that person alone', async () => {
    await read({ 0: 'question' });
    expect((await read({}, [], school.elsewhereAsSchool())).taught).toEqual({});
  });
});

describe('files in other alphabets', () => {
  const csv = Uint8Array.from(
    'Question;Answer\nDe qui est \u201cÉmile\u201d?;Zol\u00e0\n',
    (sign) => ({ '“': 0x93, '”': 0x94 })[sign] ?? sign.charCodeAt(0),
  );

  it('are read by a guess that is told, and anew as they are said to be', async () => {
    const guessed = must(await file(csv));
    expect(guessed.encoding).toBe('windows-1252');
    expect(guessed.items[0]).toMatchObject({ title: 'De qui est “Émile”?', state: 'new' });
    const named = must(await previewFile(teacher(), ...where(), csv, 'windows-1251'));
    expect(named.items[0]?.title).toBe('De qui est “Йmile”?');
    expect(must(await file(new TextEncoder().encode('Question;Answer\nÉ?;à\n'))).encoding).toBeNull();
    expect(refusal(await previewFile(teacher(), ...where(), csv, 'morse'))).toBe('bad-input');
  });
});

describe('word processor documents', () => {
  it('are read with their lists, styles and breaks', async () => {
    const numbering =
      '<w:abstractNum w:abstractNumId="0"><w:lvl w:ilvl="0"><w:start w:val="1"/><w:numFmt w:val="decimal"/><w:lvlText w:val="%1."/></w:lvl><w:lvl w:ilvl="1"><w:start w:val="1"/><w:numFmt w:val="lowerLetter"/><w:lvlText w:val="%2)"/></w:lvl></w:abstractNum><w:num w:numId="5"><w:abstractNumId w:val="0"/></w:num>';
    const item = (level: number, inner: string) => paragraph(inner, `<w:ilvl w:val="${level}"/><w:numId w:val="5"/>`);
    const body = [
      item(0, run('Which side is &lt;green&gt;?')),
      item(1, run('port')),
      item(1, run('star', '<w:b/>') + run('board', '<w:b w:val="1"/>')),
      item(0, run('Which is red?')),
      item(1, run('port', '<w:u w:val="single"/>')),
      item(1, run('starboard', '<w:u w:val="none"/>')),
      paragraph(run('Solution: left')),
    ].join('');
    const preview = must(await file(docx(body, numbering)));
    expect(preview.items.map((item) => [item.title, item.state])).toEqual([
      ['Which side is <green>?', 'new'],
      ['Which is red?', 'new'],
    ]);
    const rights = preview.items.map(
      ({ content }) => content?.type === 'single-choice' && content.choices.findIndex((choice) => choice.right),
    );
    expect(rights).toEqual([1, 0]);
  });

  it('that unfold without end are stopped', () => {
    const huge = docx(`<w:p>${run('x'.repeat(unpackLimits.entry))}</w:p>`);
    expect(huge.length).toBeLessThan(200_000);
    expect(readDocx(huge)).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringContaining('unpacks to far more') }],
    });
    const many = zipSync(Object.fromEntries(Array.from({ length: 2_100 }, (_, i) => [`word/x${i}.xml`, strToU8('')])));
    expect(readDocx(many)).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringContaining('too many parts') }],
    });
    const entities = '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;&a;">]>';
    const bomb = zipSync({
      'word/document.xml': strToU8(`<?xml version="1.0"?>${entities}<w:document><w:body>&b;</w:body></w:document>`),
    });
    expect(readDocx(bomb)).toMatchObject({ ok: false, problems: [{ message: expect.stringContaining('entities') }] });
  });

  it('that are damaged or something else are refused', async () => {
    const good = docx(paragraph(run('1. x')));
    for (const bytes of [
      good.slice(0, good.length / 2),
      zipSync({ 'a.txt': strToU8('x') }),
      new Uint8Array([1, 0, 2]),
      readFileSync(process.execPath).subarray(0, 5_000),
    ])
      expect(refusal(await file(bytes))).toBe('bad-input');
    expect(refusal(await file(new Uint8Array(21_000_000)))).toBe('bad-input');
  });
});

describe('spreadsheets', () => {
  it('with a million empty rows are refused before they are unfolded', async () => {
    const sheet = `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${'<row/>'.repeat(1_000_000)}</sheetData></worksheet>`;
    const bomb = zipSync({ 'xl/workbook.xml': strToU8('<workbook/>'), 'xl/worksheets/sheet1.xml': strToU8(sheet) });
    const refused = await file(bomb);
    expect(refused).toMatchObject({ ok: false, problems: [{ message: expect.stringContaining('below row 20000') }] });
  });

  it('with cells far from the others are read without what lies between', async () => {
    const sheet = (rows: string) =>
      zipSync({
        'xl/workbook.xml': strToU8('<workbook/>'),
        'xl/worksheets/sheet1.xml': strToU8(
          `<worksheet><sheetData>${rows}</sheetData><mergeCells><mergeCell ref="A1:XFD1048576"/></mergeCells><dataValidations><dataValidation sqref="A1:XFD1048576"/></dataValidations></worksheet>`,
        ),
      });
    const far =
      '<row r="1"><c r="A1" t="str"><v>question</v></c><c r="B1" t="str"><v>answer</v></c><c r="XFD1"><v>1</v></c></row>';
    const read = must(
      await file(
        sheet(`${far}<row r="7000"><c r="A7000" t="inlineStr"><is><t>How many?</t></is></c><c><v>12</v></c></row>`),
      ),
    );
    expect(read.columns?.headings).toEqual(['question', 'answer']);
    expect(read.items.map((item) => item.type)).toEqual(['Numeric']);
    expect(await file(sheet('<row r="1048576"><c><v>1</v></c></row>'))).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringContaining('below row 20000') }],
    });
  });

  it('show days, shared and rich texts, truths and numbers as people read them', () => {
    const texts = '<si><t>shared</t></si><si><r><t>ri</t></r><r><t>ch</t></r><rPh><t>spoken</t></rPh></si>';
    const book = zipSync({
      'xl/workbook.xml': strToU8('<x:workbook xmlns:r="r"><x:sheets><x:sheet r:id="rId7"/></x:sheets></x:workbook>'),
      'xl/_rels/workbook.xml.rels': strToU8(
        '<Relationships><Relationship Id="rId7" Target="/xl/worksheets/own.xml"/></Relationships>',
      ),
      'xl/sharedStrings.xml': strToU8(`<sst>${texts}</sst>`),
      'xl/styles.xml': strToU8(
        '<styleSheet><numFmts><numFmt numFmtId="164" formatCode="yyyy&quot;.&quot;mm"/><numFmt numFmtId="165" formatCode="0.0&quot; days&quot;"/></numFmts><cellStyleXfs><xf numFmtId="14"/></cellStyleXfs><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="164"/><xf numFmtId="165"/></cellXfs></styleSheet>',
      ),
      'xl/worksheets/own.xml': strToU8(
        '<x:worksheet><x:sheetData><x:row><x:c t="s"><x:v>0</x:v></x:c><x:c t="s"><x:v>1</x:v></x:c><x:c s="1"><x:v>46354</x:v></x:c><x:c s="2"><x:v>46354.75</x:v></x:c><x:c s="3"><x:v>2.50</x:v></x:c><x:c t="b"><x:v>1</x:v></x:c><x:c r="H1" t="e"><x:v>#DIV/0!</x:v></x:c></x:row></x:sheetData></x:worksheet>',
      ),
    });
    // 46354 is 28 November 2026, counted from 30 December 1899.
    expect(must(readXlsx(book))).toEqual([
      ['shared', 'rich', '2026-11-28', '2026-11-28', '2.5', 'true', '', '#DIV/0!'],
    ]);
  });

  it('that were never worked out take no empty cell for a key', async () => {
    const cell = (at: string, words: string) => `<c r="${at}" t="inlineStr"><is><t>${words}</t></is></c>`;
    const sheet = `<worksheet><sheetData><row r="1">${cell('A1', 'Question')}${cell('B1', 'Answer')}</row><row r="2">${cell('A2', 'How many?')}<c r="B2"><f>5+7</f></c></row><row r="3">${cell('A3', 'And how many?')}<c r="B3"><f>5+7</f><v>12</v></c></row></sheetData></worksheet>`;
    const book = zipSync({ 'xl/workbook.xml': strToU8('<workbook/>'), 'xl/worksheets/sheet1.xml': strToU8(sheet) });
    expect(must(await file(book)).items.map((one) => [one.state, one.type])).toEqual([
      ['unreadable', ''],
      ['new', 'Numeric'],
    ]);
  });

  it('hold texts only, so that nothing in them runs', async () => {
    const bytes = await writeXlsx('a/b', [['name'], ["'=1+1"]]);
    const read = must(
      await file(
        await writeXlsx('b', [
          ['question', 'answer'],
          ['How much is 1+1?', '2'],
        ]),
      ),
    );
    expect(read.items[0]?.type).toBe('Numeric');
    expect(bytes.length).toBeGreaterThan(1_000);
  });
});

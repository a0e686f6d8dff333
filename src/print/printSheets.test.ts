import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { richFromText } from '../core/base/rich';
import type { SheetBlock, SheetDocument } from '../core/gradebook/sheetDocument';
import { documentsAFile, filesSaid } from '../core/print/printOrder';
import { printSheets } from './printSheets';
import { readPdf } from './testing/readPdf';

const rows = (count: number): SheetBlock => ({
  kind: 'table',
  head: ['Question', 'Credit'],
  right: [1],
  rows: Array.from({ length: count }, (_, i) => [`${i + 1} A question of some words`, `${i} %`]),
});
const question: SheetBlock = {
  kind: 'question',
  number: '3',
  points: '1 of 2',
  stem: richFromText('How high is the tide?'),
  answer: '2.4',
  verdict: 'wrong',
  why: null,
  right: '3.1',
  solution: richFromText('By the rule of twelfths.'),
  comment: 'Look again at the range.',
};
const inFormulas: SheetBlock = {
  ...question,
  why: 'Everyone has full points for this question.',
  stem: {
    type: 'doc',
    content: [{ type: 'paragraph', content: [{ type: 'math', attrs: { tex: '\\frac{1}{2} m v^2', display: false } }] }],
  },
};
const sheet = (fileName: string, blocks: SheetBlock[]): SheetDocument => ({
  fileName,
  title: 'Theory exam',
  note: 'Zoë Papathanou · 1028',
  foot: 'Theory exam',
  blocks,
});
const all: SheetBlock[] = [
  { kind: 'text', text: 'Dear Zoë,' },
  { kind: 'result', text: '7 of 10 points', note: '70 %' },
  { kind: 'heading', text: 'What was missed' },
  question,
  rows(3),
  { kind: 'lines', label: 'Your reply', count: 6 },
];

describe('printed sheets', () => {
  it('lie in one archive, each under its student’s name, with progress', async () => {
    const told: number[] = [];
    const archive = await printSheets(
      { sheets: [sheet('Zoë.pdf', all), sheet('Bao.pdf', all)], format: 'pdf', into: 'archive', pictures: {} },
      (done) => told.push(done),
    );
    const files = unzipSync(archive);
    expect(Object.keys(files)).toEqual(['Zoë.pdf', 'Bao.pdf']);
    expect(told).toEqual([1, 2]);
    for (const file of Object.values(files)) {
      const { pages, ...said } = await readPdf(file);
      expect(said).toEqual({ title: 'Theory exam', language: 'en', isTagged: true, standard: 'UA-1' });
      expect(pages).toHaveLength(1);
      for (const words of [
        'Dear Zoë,',
        '7 of 10 points',
        'How high is the tide?',
        'Your answer: 2.4',
        'Right: 3.1',
        '1 of 1',
      ])
        expect(pages[0]).toContain(words);
    }
  });

  it('follow one another in one PDF, each on pages of its own', async () => {
    const one = await printSheets({
      sheets: [sheet('a.pdf', all), sheet('b.pdf', [rows(60)]), sheet('c.pdf', [rows(1)])],
      format: 'pdf',
      into: 'one-pdf',
      pictures: {},
    });
    const { pages } = await readPdf(one);
    // Each counts its own pages.
    expect(pages.map((page) => /(\d) of (\d)\s*$/.exec(page)?.[0]?.trim())).toEqual([
      '1 of 1',
      '1 of 2',
      '2 of 2',
      '1 of 1',
    ]);
    // The head of a table that runs over a page's end stands on each.
    expect(pages.slice(1, 3).every((page) => page.includes('Credit'))).toBe(true);
  });

  it('run over many pages wherever a page ends, in blocks of every size', async () => {
    for (const n of [1, 2, 3, 5, 12]) {
      const blocks = Array.from({ length: n }, (_, i): SheetBlock[] => [
        { kind: 'heading', text: `Student ${i + 1}` },
        rows(7 + (i % 5)),
        question,
      ]).flat();
      const bytes = await printSheets({
        sheets: [sheet('report.pdf', blocks)],
        format: 'pdf',
        into: 'one-pdf',
        pictures: {},
      });
      const { pages } = await readPdf(bytes);
      expect(pages.length).toBeGreaterThanOrEqual(Math.floor(n / 4));
      for (let i = 1; i <= n; i++) expect(pages.join('\n')).toContain(`Student ${i}\n`);
    }
  });

  it('are documents to be written into, with all that stands on them', async () => {
    const archive = await printSheets({
      sheets: [sheet('Zoë.docx', [...all, inFormulas])],
      format: 'docx',
      into: 'archive',
      pictures: {},
    });
    const inside = unzipSync(unzipSync(archive)['Zoë.docx'] as Uint8Array);
    const text = new TextDecoder().decode(inside['word/document.xml']);
    for (const words of [
      'Theory exam',
      'Dear Zoë,',
      '7 of 10 points',
      'How high is the tide?',
      'Your answer: 2.4',
      'Right: 3.1',
      'Your reply',
      'Everyone has full points for this question.',
      // A document has no typesetter: a formula is a line of text, and no program for one.
      '1/2 m v²',
    ])
      expect(text).toContain(words);
    expect(text).not.toContain('frac');
  });

  it('of many students are several files, each with no more than a printer takes, with progress', async () => {
    const told: number[] = [];
    const many = Array.from({ length: documentsAFile + 1 }, (_, i) =>
      sheet(`${i}.pdf`, [{ kind: 'text', text: `Of student ${i + 1}` }]),
    );
    const order = { format: 'pdf' as const, into: 'one-pdf' as const, pictures: {} };
    const files = unzipSync(await printSheets({ ...order, sheets: many }, (done) => told.push(done)));
    expect(Object.keys(files)).toEqual(['sheets 001-060.pdf', 'sheets 061-061.pdf']);
    expect(told).toEqual([documentsAFile, documentsAFile + 1]);
    const read = await Promise.all(Object.values(files).map(readPdf));
    expect(read.map((one) => [one.pages.length, one.isTagged, one.standard])).toEqual([
      [documentsAFile, true, 'UA-1'],
      [1, true, 'UA-1'],
    ]);
    expect(read[1]?.pages[0]).toContain(`Of student ${documentsAFile + 1}`);
    // One fewer, and they stand in one file.
    const one = await printSheets({ ...order, sheets: many.slice(1) });
    expect((await readPdf(one)).pages).toHaveLength(documentsAFile);
    expect([documentsAFile, documentsAFile + 1].map(filesSaid)).toEqual(['', ', in 2 files']);
  });
});

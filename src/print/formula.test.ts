import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Rich, RichInline } from '../core/base/rich';
import { formulaOf } from './formula';
import { richInLine, richNodes } from './richNodes';
import { readPdf } from './testing/readPdf';
import { typesetPdf } from './typesetPdf';

const sign = (s: string) => ({ k: 'sign', s });

describe('a formula', () => {
  it('becomes data by how its parts stand together', () => {
    expect(formulaOf('\\frac{a}{2}', false)).toEqual({ k: 'over', a: sign('a'), b: sign('2'), line: true });
    expect(formulaOf('\\sqrt[3]{x}', false)).toEqual({ k: 'root', c: sign('x'), index: sign('3') });
    expect(formulaOf('x_i^2', false)).toEqual({
      k: 'attach',
      c: sign('x'),
      b: sign('i'),
      t: sign('2'),
      limits: false,
    });
    // Sums carry their limits above and below on a line of their own only.
    expect(formulaOf('\\sum_i', true)).toMatchObject({ limits: true });
    expect(formulaOf('\\sum_i', false)).toMatchObject({ limits: false });
    expect(formulaOf('\\binom nk', false)).toMatchObject({
      k: 'brackets',
      c: [sign('('), { k: 'over', line: false }, sign(')')],
    });
    expect(formulaOf('\\begin{cases}a&b\\\\c&d\\end{cases}', false)).toMatchObject({
      k: 'brackets',
      c: [sign('{'), { k: 'grid', sides: ['left', 'left'] }],
    });
    expect(formulaOf('\\vec v', false)).toMatchObject({ k: 'accent', c: sign('v') });
    expect(formulaOf('\\mathbf v', false)).toMatchObject({ k: 'face', face: 'bold' });
  });

  it('that cannot be read is none', () => {
    expect([formulaOf('\\frac{', false), formulaOf('\\notacommand', false)]).toEqual([null, null]);
    expect(formulaOf('{'.repeat(60) + '\\frac12'.repeat(1) + '}'.repeat(60), false)).not.toBeUndefined();
    expect(formulaOf(`${'\\sqrt{'.repeat(40)}x${'}'.repeat(40)}`, false)).toBeNull();
  });

  it('carries no address and no markup', () => {
    const made = JSON.stringify(formulaOf('\\href{https://x.example}{y} \\text{<b>\\#eval("1")</b>}', false));
    expect(made).not.toContain('x.example');
    expect(made).toContain('<b>#eval(\\"1\\")</b>');
  });

  it('of any kind is set, and its words with it', async () => {
    const all = [
      '\\frac{a^2}{\\sqrt{b}} \\le 12^\\circ',
      '\\begin{aligned} a&=b\\\\ c&=d\\end{aligned}',
      '\\overline{AB}\\;\\hat x\\;\\underbrace{a+b}_{n}\\;\\boxed{y}\\;\\cancel{z}',
      '\\left\\{\\begin{array}{lr} a & b \\end{array}\\right.',
      '\\mathbb R\\,\\mathcal L\\,\\mathfrak g\\,\\mathsf s\\,\\mathtt t\\,\\mathrm{km}',
      '\\sin\\theta \\quad \\lim_{x\\to 0} \\int_0^1 f',
    ].map((tex) => ({ k: 'formula' as const, f: formulaOf(tex, false) ?? expect.fail(tex), alt: tex }));
    const pdf = await readPdf(typesetPdf([{ title: 'F', foot: '', c: [{ k: 'p', c: all }] }], {}));
    expect(pdf.standard).toBe('UA-1');
    expect(pdf.pages[0]).toContain('km');
  });

  it('that has lines of its own stands between the paragraphs it parts, wherever rich content is printed', async () => {
    const tex = '\\mathrm{Zq} = \\frac{1}{2}';
    const math = (display: boolean): RichInline => ({ type: 'math', attrs: { tex, display } });
    const text = (words: string): RichInline => ({ type: 'text', text: words });
    const rich: Rich = {
      type: 'doc',
      content: [
        { type: 'paragraph', content: [text('Before'), math(true), text('after'), math(false)] },
        { type: 'paragraph', content: [math(true)] },
        { type: 'paragraph' },
      ],
    };
    const nodes = richNodes(rich, { pictures: {} });
    expect(nodes.map((one) => one.k)).toEqual(['p', 'display', 'p', 'display', 'p']);
    const inRow = richInLine(rich, { pictures: {} });
    const pdf = await readPdf(typesetPdf([{ title: 'F', foot: '', c: [...nodes, { k: 'p', c: inRow }] }], {}));
    expect(pdf.standard).toBe('UA-1');
    expect(pdf.pages[0]?.match(/Zq/g)).toHaveLength(6);
  });
});

it('whatever is typed is set as it stands, never carried out', async () => {
  const programs = [
    '#sys.inputs',
    '$x$',
    '= no heading',
    '#read("/etc/passwd")',
    '*b* _i_ `c` @ref <label> \\ // x',
    '{"k":"h"}',
  ];
  const pdf = await readPdf(
    typesetPdf(
      [
        {
          title: '#panic()',
          foot: '#panic()',
          c: programs.map((s) => ({ k: 'p' as const, c: [{ k: 't' as const, s }] })),
        },
      ],
      {},
    ),
  );
  for (const s of programs) expect(pdf.pages[0]).toContain(s);
  expect(pdf.title).toBe('#panic()');
  const any = fc.sample(fc.string({ unit: 'binary', maxLength: 60 }), { seed: 11, numRuns: 40 });
  const all = typesetPdf(
    any.map((s) => ({ title: s, foot: s, c: [{ k: 'p', c: [{ k: 't', s }] }] })),
    {},
  );
  expect((await readPdf(all)).pages).toHaveLength(any.length);
});

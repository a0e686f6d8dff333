import { createCipheriv, createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { csvText, harmless } from './csv';
import { seededRandom, shuffled } from './random';
import { readRich, readRichOrFault, richFromText, richLimits, richText } from './rich';
import { pointsText, roundHalfUp } from './rounding';

describe('rounding for display', () => {
  it.each([
    [2.675, 2, '2.68'],
    [1.005, 2, '1.01'],
    [0.5, 0, '1'],
    [1.45, 1, '1.5'],
    [-2.5, 0, '-3'],
    [-0.04, 1, '0.0'],
    [0.1 + 0.2, 2, '0.30'],
    [99.95, 1, '100.0'],
    [1e-9, 2, '0.00'],
    [123456.789, 1, '123456.8'],
    [66.66666666666667, 1, '66.7'],
  ])('%d with %d decimals', (value, decimals, text) => {
    expect(roundHalfUp(value, decimals)).toBe(text);
  });

  it('never moves a value by more than half a unit of the last place', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.integer({ min: 0, max: 4 }),
        (value, decimals) => {
          expect(Math.abs(Number(roundHalfUp(value, decimals)) - value)).toBeLessThanOrEqual(
            0.5 * 10 ** -decimals + 1e-5,
          );
        },
      ),
      { seed: 4 },
    );
    expect([2, 2.5, 0, 10, 100, 1.25].map(pointsText)).toEqual(['2', '2.5', '0', '10', '100', '1.25']);
  });
});

describe('seeded chance', () => {
  it('is the same for the same seed and unrelated under another label', () => {
    const row = (seed: string, label: string) =>
      Array.from(
        { length: 8 },
        (
          (random) => () =>
            random.below(1000)
        )(seededRandom(seed, label)),
      );
    expect(row('a', 'x')).toEqual(row('a', 'x'));
    expect(row('a', 'x')).not.toEqual(row('a', 'y'));
    expect(row('ax', '')).not.toEqual(row('a', 'x'));
  });

  it('is ChaCha20 under the SHA-256 of seed and label, as another implementation computes it', () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.string(),
        fc.array(fc.integer({ min: 2, max: 2 ** 32 }), { maxLength: 90 }),
        (seed, label, bounds) => {
          const key = createHash('sha256').update(`${seed}\u0000${label}`).digest();
          const bytes = createCipheriv('chacha20', key, Buffer.alloc(16)).update(Buffer.alloc(4_096));
          let at = 0;
          const expected = bounds.map((bound) => {
            for (;;) {
              const word = bytes.readUInt32LE(4 * at++);
              if (word < 2 ** 32 - (2 ** 32 % bound)) return word % bound;
            }
          });
          const stream = seededRandom(seed, label);
          expect(bounds.map((bound) => stream.below(bound))).toEqual(expected);
        },
      ),
    );
  });

  it('spreads seeds that are alike evenly', () => {
    const counts = new Array<number>(10).fill(0);
    for (let s = 0; s < 10_000; s++) (counts[seededRandom(`seed-${s}`).below(10)] as number)++;
    const chi = counts.reduce((sum, n) => sum + (n - 1000) ** 2 / 1000, 0);
    expect(chi).toBeLessThan(27.9);
    expect([...shuffled([1, 2, 3, 4], seededRandom('s'))].sort()).toEqual([1, 2, 3, 4]);
  });
});

describe('rich content', () => {
  const text = (content: unknown[]) => ({ type: 'doc', content: [{ type: 'paragraph', content }] });

  it('keeps what the format knows and drops what an editor adds', () => {
    const rich = readRich({
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          attrs: { class: 'x' },
          content: [{ type: 'text', text: 'a', marks: [{ type: 'bold', attrs: { onclick: 'x' } }] }],
        },
      ],
    });
    expect(rich).toEqual(text([{ type: 'text', text: 'a', marks: [{ type: 'bold' }] }]));
  });

  it.each([
    ['a node it does not know', { type: 'doc', content: [{ type: 'iframe' }] }],
    ['a mark it does not know', text([{ type: 'text', text: 'a', marks: [{ type: 'textStyle', attrs: {} }] }])],
    [
      'a link that runs a script',
      text([{ type: 'text', text: 'a', marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }] }]),
    ],
    [
      'a data link',
      text([{ type: 'text', text: 'a', marks: [{ type: 'link', attrs: { href: 'data:text/html,x' } }] }]),
    ],
    ['markup as text in a wrong place', { type: 'doc', content: '<b>x</b>' }],
    ['no document', []],
    ['too much text', text([{ type: 'text', text: 'x'.repeat(100_001) }])],
    [
      'lists without end',
      Array.from({ length: 40 }).reduce<unknown>(
        (inner) => ({ type: 'bulletList', content: [{ type: 'listItem', content: [inner] }] }),
        { type: 'paragraph' },
      ),
    ],
  ])('refuses %s', (_, input) => {
    expect(
      readRich(
        Array.isArray(input) || (input as { type?: string }).type === 'doc' ? input : { type: 'doc', content: [input] },
      ),
    ).toBeNull();
  });

  it('says why something is none', () => {
    const lines = (count: number) => ({
      type: 'doc',
      content: Array.from({ length: count }, () => ({ type: 'paragraph' })),
    });
    expect(readRichOrFault(text([{ type: 'text', text: 'x'.repeat(richLimits.characters) }]))).toBeTypeOf('object');
    expect(readRichOrFault(text([{ type: 'text', text: 'x'.repeat(richLimits.characters + 1) }]))).toBe('too-long');
    expect(readRichOrFault(lines(richLimits.nodes))).toBeTypeOf('object');
    expect(readRichOrFault(lines(richLimits.nodes + 1))).toBe('too-many-parts');
    expect(readRichOrFault({ type: 'doc', content: [{ type: 'iframe' }] })).toBe('unknown');
  });

  it('never throws, and reads back what it has read', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (input) => {
        const rich = readRich(input);
        if (rich) expect(readRich(rich)).toEqual(rich);
      }),
    );
    expect(richText(richFromText('one\ntwo'))).toBe('one\ntwo');
  });
});

describe('CSV', () => {
  it('neutralises what a spreadsheet would run, and leaves numbers alone', () => {
    expect(['=1+1', '+49', '@x', '-x', '\t=1', ' =1'].map(harmless)).toEqual([
      "'=1+1",
      "'+49",
      "'@x",
      "'-x",
      "'\t=1",
      "' =1",
    ]);
    expect(['-3', '-3.5', '4', 'plain'].map(harmless)).toEqual(['-3', '-3.5', '4', 'plain']);
    expect(csvText(['a'], [['x,"y"']])).toBe('\ufeffa\r\n"x,""y"""\r\n');
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type MatchingRule, usualMatching } from './acceptedText';
import { fold } from './fold';
import { matchText, slipsAllowed } from './matchText';
import { typingSlips } from './typingSlips';
import { exampleOf, fitsPattern } from './wildcards';

const exactly: MatchingRule = { ignore: { case: false, accents: false, spacing: false }, slips: 0, wildcards: false };
const one = (text: string, credit = 1) => ({ text, credit });

describe('folding', () => {
  it.each([
    ['  Émile ', { case: false, accents: false, spacing: false }, 'Émile'],
    ['Émile', { case: true, accents: false, spacing: false }, 'émile'],
    ['E\u0301mile', { case: false, accents: false, spacing: false }, 'Émile'],
    ['Émile', { case: false, accents: true, spacing: false }, 'Emile'],
    ['Straße', { case: true, accents: false, spacing: false }, 'strasse'],
    ["man-over board's!", { case: false, accents: false, spacing: true }, 'manoverboards'],
    ['5 + 3 °', { case: false, accents: false, spacing: true }, '5+3°'],
  ])('%s', (text, folds, folded) => {
    expect(fold(text, folds)).toBe(folded);
  });

  it('of plain ASCII follows the same Unicode classes as any other text', () => {
    const ascii = Array.from({ length: 128 }, (_, code) => String.fromCharCode(code));
    for (const sign of ascii)
      expect([sign, fold(`a${sign}b`, { case: false, accents: false, spacing: true })]).toEqual([
        sign,
        `a${sign}b`.replace(/[\s\p{P}\p{Z}\p{C}]/gu, ''),
      ]);
  });

  it('is done once: folding again changes nothing', () => {
    const folds = fc.record({ case: fc.boolean(), accents: fc.boolean(), spacing: fc.boolean() });
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), folds, (text, chosen) => {
        expect(fold(fold(text, chosen), chosen)).toBe(fold(text, chosen));
      }),
      { seed: 2, numRuns: 500 },
    );
  });
});

describe('typing slips', () => {
  // Worked by hand: insertion, deletion, replacement, neighbours swapped; the restricted distance of ca → abc is 3.
  it.each([
    ['starboard', 'starboard', 0],
    ['starbaord', 'starboard', 1],
    ['starbord', 'starboard', 1],
    ['starrboard', 'starboard', 1],
    ['sterboard', 'starboard', 1],
    ['ca', 'abc', 3],
    ['', 'abc', 3],
    ['buoy 12', 'buoy 13', Number.POSITIVE_INFINITY],
    ['buoy 12', 'buoy 21', Number.POSITIVE_INFINITY],
    ['buoy12', 'buoy1', Number.POSITIVE_INFINITY],
    ['boy 12', 'buoy 12', 1],
  ])('%s → %s', (a, b, slips) => {
    expect(typingSlips(a, b, 5)).toBe(slips);
    expect(typingSlips(b, a, 5)).toBe(slips);
  });

  it('stops at what is of interest, and agrees with the whole table below it', () => {
    const text = fc.string({ unit: fc.constantFrom('a', 'b', 'c', '1'), maxLength: 8 });
    fc.assert(
      fc.property(text, text, fc.nat({ max: 4 }), (a, b, most) => {
        const whole = typingSlips(a, b, 99);
        expect(typingSlips(a, b, most)).toBe(whole <= most ? whole : Number.POSITIVE_INFINITY);
      }),
      { seed: 4, numRuns: 2000 },
    );
  });

  it('forgives fewer than a third of the length', () => {
    expect([3, 4, 6, 7, 9, 10, 30].map((length) => slipsAllowed(5, length))).toEqual([0, 1, 1, 2, 2, 3, 5]);
  });
});

describe('wildcards', () => {
  const plain = exactly.ignore;
  it.each([
    ['st*board', 'starboard', true],
    ['st*board', 'stboard', true],
    ['st?board', 'stboard', false],
    ['*light*', 'the lighthouse', true],
    ['?b', 'éb', true],
    ['a\\*b', 'a*b', true],
    ['a\\*b', 'axb', false],
    ['a**b', 'ab', true],
    ['abc', 'abcd', false],
    ['*a', 'bab', false],
  ])('%s and %s', (pattern, text, fits) => {
    expect(fitsPattern(pattern, text, plain)).toBe(fits);
  });

  it('fits its own example, also for the worst of patterns in good time', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('a', '*', '?', ' ', '\\', 'É'), maxLength: 12 }), (inner) => {
        expect(fitsPattern(`b${inner}b`, exampleOf(`b${inner}b`), plain)).toBe(true);
      }),
      { seed: 6, numRuns: 500 },
    );
    expect(fitsPattern(`${'a*'.repeat(90)}b`, 'a'.repeat(500), plain)).toBe(false);
  });
});

describe('which accepted answer a text is taken for', () => {
  const accepted = [one('high water', 0.5), one('High Water', 1), one('HW', 1), one('slack', 0)];

  it('is the one with the best credit, the first of equals, and says by which rule', () => {
    expect(matchText(accepted, exactly, 'high water')).toEqual({ index: 0, credit: 0.5, how: { by: 'same' } });
    expect(matchText(accepted, usualMatching, 'high-water')).toEqual({ index: 1, credit: 1, how: { by: 'ignoring' } });
    expect(matchText(accepted, { ...usualMatching, slips: 2 }, 'hihg watre')).toMatchObject({
      index: 1,
      how: { by: 'slips', slips: 2 },
    });
    expect(matchText([one('h*r')], { ...usualMatching, wildcards: true }, 'High water')).toMatchObject({
      how: { by: 'pattern' },
    });
    expect(matchText(accepted, usualMatching, 'slack')).toMatchObject({ index: 3, credit: 0 });
  });

  it('matches nothing for an empty text, or an answer that folds to nothing', () => {
    expect(matchText(accepted, usualMatching, '  ')).toBe(null);
    expect(matchText([one('…')], usualMatching, '!')).toBe(null);
    expect(matchText([one('*')], { ...usualMatching, wildcards: true }, 'x')).toBe(null);
    expect(matchText(accepted, { ...usualMatching, slips: 5 }, 'wh')).toBe(null);
  });
});

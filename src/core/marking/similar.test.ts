import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { agreement, differTooMuch } from './agreement';
import { groupSimilar, similarity } from './similar';

describe('the similarity of two answers', () => {
  it.each([
    ['Starboard', ' star-board! ', 1],
    // One slip in nine letters.
    ['starboard', 'starbaord', 1 - 1 / 9],
    // Only o and r stand in the same order: seven slips in nine letters.
    ['port', 'starboard', 2 / 9],
    // Numbers that differ are different answers, whatever the rest says.
    ['2 knots', '3 knots', 0],
    ['-5 degrees', '5 degrees', 0],
    ['1.5 m', '15 m', 0],
    ['1,5 m', '1.5 m', 1],
    ['3-5 nm', '3 – 5 nm', 1],
    ['', '', 1],
    ['', 'a', 0],
  ])('of %j and %j is %d', (a, b, expected) => {
    expect(similarity(a, b)).toBeCloseTo(expected, 12);
  });

  it('of long answers goes by words and pairs of words', () => {
    const a =
      'Keep clear of the fairway in fog and sound one prolonged blast every two minutes while making way through it';
    const b = a.replace('fog', 'mist');
    // 20 words and 19 pairs each; one word and two pairs differ: 36 of 39 are shared.
    expect(similarity(a, b)).toBeCloseTo(36 / 39, 12);
    expect(similarity(a, 'fog')).toBe(0);
  });

  it('is symmetric, within [0, 1], and 1 with itself', () => {
    const text = fc.oneof(
      fc.string({ maxLength: 30 }),
      fc.array(fc.constantFrom('fog', 'sea', 'mark', '7'), { maxLength: 60 }).map((all) => all.join(' ')),
    );
    fc.assert(
      fc.property(text, text, (a, b) => {
        const found = similarity(a, b);
        expect(found).toBeGreaterThanOrEqual(0);
        expect(found).toBeLessThanOrEqual(1);
        expect(similarity(b, a)).toBeCloseTo(found, 12);
        expect(similarity(a, a)).toBe(1);
      }),
    );
  });
});

describe('groups of similar answers', () => {
  const answers = ['Fog', 'fog.', 'fgo', 'mist', 'Mist', 'FOG', 'rain'].map((text, id) => ({ id, text }));

  it('at 1 hold what differs in case, spaces and punctuation only, the largest first', () => {
    expect(groupSimilar(answers, 1).map((group) => group.members.map((one) => one.id))).toEqual([
      [0, 1, 5],
      [3, 4],
      [2],
      [6],
    ]);
  });

  it('take in near ones as the slider goes down, each with how like it is', () => {
    const [fog] = groupSimilar(answers, 0.6);
    expect(fog?.members).toEqual([
      { id: 0, similarity: 1 },
      { id: 1, similarity: 1 },
      { id: 5, similarity: 1 },
      { id: 2, similarity: 1 - 1 / 3 },
    ]);
  });

  it('never chain unlike answers together by small steps', () => {
    const chain = ['aaaaaaaaaa', 'aaaaaaaabb', 'aaaaaabbbb', 'aaaabbbbbb'].map((text, id) => ({ id, text }));
    for (const { text, members } of groupSimilar(chain, 0.8))
      for (const { id } of members) expect(similarity(text, chain[id]?.text ?? '')).toBeGreaterThanOrEqual(0.8);
    expect(groupSimilar(chain, 0.8).length).toBeGreaterThan(1);
  });

  it('hold every answer once, none less like its first than asked, whatever the order of the answers', () => {
    const wording = fc
      .array(fc.constantFrom('f', 'o', 'g', ' ', '.', 'F', '1'), { maxLength: 6 })
      .map((all) => all.join(''));
    fc.assert(
      fc.property(
        fc.array(wording, { maxLength: 25 }),
        fc.double({ min: 0.5, max: 1, noNaN: true }),
        (texts, least) => {
          const all = texts.map((text, id) => ({ id, text }));
          const groups = groupSimilar(all, least);
          expect(groups.flatMap((group) => group.members.map((one) => one.id)).sort((a, b) => a - b)).toEqual(
            all.map((one) => one.id),
          );
          for (const group of groups)
            for (const { id, similarity: alike } of group.members) {
              expect(alike).toBeGreaterThanOrEqual(least);
              expect(similarity(group.text, texts[id] as string)).toBeCloseTo(alike, 9);
            }
          const sizes = (found: typeof groups) => found.map((group) => group.members.length);
          expect(sizes(groupSimilar([...all].reverse(), least))).toEqual(sizes(groups));
        },
      ),
    );
  });
});

describe('the agreement of two markers', () => {
  it('is exact, within one, and kappa, as worked by hand', () => {
    // Differences 0, 1, 0, 2: Σd² = 5, mean 1.25. a: 1 2 3 4 (mean 2.5, var 1.25); b: 1 3 3 2 (mean 2.25, var 0.6875).
    // By chance: 1.25 + 0.6875 + 0.0625 = 2. Kappa = 1 − 1.25/2 = 0.375.
    expect(
      agreement([
        [1, 1],
        [2, 3],
        [3, 3],
        [4, 2],
      ]),
    ).toEqual({ answers: 4, exact: 0.5, withinOne: 0.75, kappa: 0.375 });
  });

  it('says 1 where all agree, and nothing where everyone got the same or nobody was marked twice', () => {
    expect(
      agreement([
        [1, 1],
        [2, 2],
      ])?.kappa,
    ).toBe(1);
    expect(
      agreement([
        [2, 2],
        [2, 2],
      ])?.kappa,
    ).toBeNull();
    expect(agreement([])).toEqual({ answers: 0, exact: 0, withinOne: 0, kappa: null });
  });

  it('is the same as the mean over all combinations, written out', () => {
    const points = fc.integer({ min: 0, max: 12 }).map((one) => one / 2);
    fc.assert(
      fc.property(fc.array(fc.tuple(points, points), { minLength: 1, maxLength: 20 }), (pairs) => {
        const n = pairs.length;
        let chance = 0;
        for (const [a] of pairs) for (const [, b] of pairs) chance += (a - b) ** 2 / n ** 2;
        const apart = pairs.reduce((sum, [a, b]) => sum + (a - b) ** 2 / n, 0);
        const { kappa } = agreement(pairs);
        if (chance < 1e-9) expect(kappa).toBeNull();
        else expect(kappa).toBeCloseTo(1 - apart / chance, 9);
      }),
    );
  });

  it('needs settling only beyond the threshold', () => {
    expect([differTooMuch(3, 4, 1), differTooMuch(3, 4.5, 1), differTooMuch(0.1 + 0.2, 0.3, 0)]).toEqual([
      false,
      true,
      false,
    ]);
  });
});

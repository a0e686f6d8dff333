// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { pasted } from '@/core/testing/layouts/pasted';
import { tables } from '@/core/testing/layouts/tables';
import { doubtful, typed } from '@/core/testing/layouts/typed';
import { judgedLayout } from '../../../scripts/bench/judgedLayout';

const layouts = [...typed, ...pasted, ...tables];
const named = (some: typeof layouts) => some.map((layout) => [layout.name, layout] as const);

describe('layouts as different hands write them', () => {
  it('are at least sixty', () => expect(layouts.length).toBeGreaterThanOrEqual(60));

  it.each(named([...layouts, ...doubtful]))('take no wrong key in silence: %s', (_, layout) => {
    expect(judgedLayout(layout).silent).toEqual([]);
  });

  it.each(named(doubtful))('ask where more than one is meant: %s', (_, layout) => {
    const { asked, total } = judgedLayout(layout);
    expect(asked).toHaveLength(total);
  });

  it('are read wholly rightly, 95 of 100 questions at least', () => {
    const all = layouts.map((layout) => ({ name: layout.name, ...judgedLayout(layout) }));
    const right = all.reduce((sum, one) => sum + one.right, 0);
    const total = all.reduce((sum, one) => sum + one.total, 0);
    const missed = all.filter((one) => one.right < one.total).map((one) => [one.name, ...one.asked]);
    expect(right / total, JSON.stringify(missed, null, 1)).toBeGreaterThanOrEqual(0.95);
  });
});

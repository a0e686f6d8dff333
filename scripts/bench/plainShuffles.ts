import type { Random } from '../../src/core/base/random';
import type { DrawPlan } from '../../src/core/exam/drawPlan';

/** The baseline of drawing: a partial shuffle of each pool, which does not care whether a question comes twice. */
export function plainShuffles(plan: DrawPlan, papers: number, random: Random): void {
  for (let p = 0; p < papers; p++)
    for (const { pool, count } of plan.draws) {
      for (let k = 0; k < count; k++) {
        const j = k + random.below(pool.length - k);
        const picked = pool[j] as number;
        pool[j] = pool[k] as number;
        pool[k] = picked;
      }
      pool.slice(0, count);
    }
}

import { seededRandom } from '@/core/base/random';
import { drawPaper, type PaperSlot } from '@/core/exam/drawPaper';
import type { QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { present } from '@/core/question/score';
import { designInRound } from '@/core/round/roundRules';
import type { Db, Tx } from '@/db/client';
import type { SittingRow } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import type { RoundRow } from '../records/roundOf';
import { paperSeed, poolOf } from './sittingPool';

/** One question of a led round, the same on every device and on the wall. */
export type RoundSlot = PaperSlot & { presentation: Presentation };

const kept = new Map<string, RoundSlot[]>();
const mostKept = 50;

/**
 * The paper of a led round: one for all, drawn from the round's own seed over the pool that was fixed when it was begun.
 *
 * @returns null where its lines cannot be satisfied, or the round is not led
 */
export function roundPaper(tx: Db | Tx, db: Db, row: SittingRow, held: RoundRow): RoundSlot[] | null {
  if (held.rules.pace !== 'led') return null;
  const pool = poolOf(tx, db, row, row.createdAt, false);
  const key = `${row.id}/${row.revisionId}/${pool.id}`;
  const known = kept.get(key);
  if (known) return known;
  const design = designInRound(pool.design, held.rules);
  const seed = paperSeed(db, row.id, 'everyone', 1);
  const slots = drawPaper(design, pool.snapshot, seed, new Set(), pool.plan);
  if (!slots) return null;
  const contents = frozenContents(
    tx,
    slots.map((slot) => slot.versionId),
  );
  const paper = slots.map((slot, position) => ({
    ...slot,
    presentation: present(
      contents.get(slot.versionId) as QuestionContent,
      seededRandom(seed, `slot/${position}`),
      design,
    ),
  }));
  // Before the pool is fixed it may still change.
  if (pool.id === '') return paper;
  if (kept.size >= mostKept) kept.clear();
  kept.set(key, paper);
  return paper;
}

import { ok, type Result } from '@/core/base/result';
import { query } from '../house/useCase';
import { tagsInBank } from './labels';
import { objectivesOf } from './objectives';
import { toBank } from './toBank';

type BankLabels = { objectives: { id: string; code: string; wording: string }[]; tags: string[] };

/** What the questions of a bank can be aligned and tagged with. */
export const bankLabels = query({
  admits: toBank('bank.see'),
  does: ({ db, bankId }): Result<BankLabels> =>
    ok({ objectives: objectivesOf(db, bankId), tags: tagsInBank(db, bankId) }),
});

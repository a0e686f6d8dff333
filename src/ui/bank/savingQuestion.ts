import type { Result } from '@/core/base/result';
import { carriedOutOnce } from '../keep/carriedOutOnce';
import { newOnce } from '../keep/newOnce';
import type { SheetCommands } from './model';

type Input = Parameters<SheetCommands['createQuestion']>[0];

/** A save that was sent and never answered: the question, or null for a new one, and the edit it was to save over. */
export type UnansweredSave = { once: string; questionId: string | null; edit: number; input: Input };

/** A question that is saved: which, the number of its edit, and the version where an edit made one. */
export type SavedQuestion = { questionId: string; edit: number; version?: number; newVersion?: boolean };

type Setting = {
  commands: Pick<SheetCommands, 'createQuestion' | 'saveQuestion'>;
  /** Writes down what is under way, so that it is known after the page was shut; null once it was answered. */
  note: (unanswered: UnansweredSave | null) => void;
};

const isSame = (a: UnansweredSave, b: UnansweredSave): boolean =>
  JSON.stringify({ ...a, once: '' }) === JSON.stringify({ ...b, once: '' });

/**
 * Saves a question so that no lost answer makes two of it, or calls its own author somebody else: what was never answered is
 * sent again first, under its name, and says what became of it; what was typed since is saved over that.
 *
 * @param unanswered what was sent before and never answered
 * @returns what stands now; whatever is thrown was not answered
 */
export async function saveQuestionOnce(
  { commands, note }: Setting,
  wanted: Omit<UnansweredSave, 'once'>,
  unanswered: UnansweredSave | null,
): Promise<Result<SavedQuestion>> {
  const send = async (save: UnansweredSave): Promise<Result<SavedQuestion>> => {
    const { once, questionId, edit, input } = save;
    note(save);
    if (questionId === null) {
      const added = await carriedOutOnce(commands.createQuestion, once)(input);
      note(null);
      return added.ok ? { ok: true, value: { questionId: added.value.questionId, edit: 1 } } : added;
    }
    if (!commands.saveQuestion) throw new Error('This page adds questions and changes none.');
    const saved = await carriedOutOnce(commands.saveQuestion, once)(questionId, { ...input, edit });
    note(null);
    return saved.ok ? { ok: true, value: { ...saved.value, questionId } } : saved;
  };
  const next: UnansweredSave = { ...wanted, once: newOnce() };
  if (!unanswered) return send(next);
  const first = await send(unanswered);
  if (isSame(unanswered, next)) return first;
  if (first.ok) return send({ ...next, questionId: first.value.questionId, edit: first.value.edit });
  const [problem] = first.problems;
  // Nobody is signed in, or the server is busy: it stays to be found out about.
  if (problem?.code === 'signed-out' || problem?.code === 'busy') {
    note(unanswered);
    return first;
  }
  return send(next);
}

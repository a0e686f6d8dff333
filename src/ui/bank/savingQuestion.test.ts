import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { onceNameOf } from '@/core/base/once';
import { saveQuestionOnce, type UnansweredSave } from './savingQuestion';

type Input = UnansweredSave['input'];
const typed = (shortName: string) => ({ shortName }) as unknown as Input;

/** A server that carries out each name once, over a wire that loses requests and answers as it is told. */
function world() {
  const questions: { name: string; edit: number }[] = [];
  const answered = new Map<string, unknown>();
  let losing: 'nothing' | 'request' | 'answer' = 'nothing';
  const over =
    <A>(carryOut: (...sent: never[]) => A) =>
    async (...sent: unknown[]): Promise<A> => {
      if (losing === 'request') throw new Error('lost');
      const once = onceNameOf(sent.at(-1)) as string;
      if (!answered.has(once)) answered.set(once, carryOut(...(sent.slice(0, -1) as never[])));
      if (losing === 'answer') throw new Error('lost');
      return answered.get(once) as A;
    };
  const commands = {
    createQuestion: over((input: { shortName: string }) => {
      questions.push({ name: input.shortName, edit: 1 });
      return { ok: true as const, value: { questionId: `q${questions.length - 1}` } };
    }),
    saveQuestion: over((questionId: string, input: { shortName: string; edit: number }) => {
      const found = questions[Number(questionId.slice(1))] as { name: string; edit: number };
      if (found.edit !== input.edit)
        return { ok: false as const, problems: [{ code: 'conflict' as const, message: 'someone else' }] };
      found.name = input.shortName;
      found.edit += 1;
      return { ok: true as const, value: { edit: found.edit, version: 1, newVersion: false } };
    }),
  };
  return {
    questions,
    commands: commands as never,
    lose: (what: typeof losing) => {
      losing = what;
    },
  };
}

describe('a question that is saved over a wire that loses answers', () => {
  it('is one question, and nobody else is blamed', async () => {
    const { questions, commands, lose } = world();
    let open: UnansweredSave | null = null;
    const note = (save: UnansweredSave | null) => {
      open = save;
    };
    const save = (name: string) =>
      saveQuestionOnce({ commands, note }, { questionId: null, edit: 0, input: typed(name) }, open);
    lose('answer');
    await expect(save('first')).rejects.toThrow('lost');
    lose('nothing');
    expect(await save('first, and more')).toMatchObject({ ok: true, value: { questionId: 'q0', edit: 2 } });
    expect(questions).toEqual([{ name: 'first, and more', edit: 2 }]);
    expect(open).toBeNull();
  });

  it('holds in the end what was typed last, whatever was lost on the way', async () => {
    const step = fc.constantFrom('nothing', 'request', 'answer') as fc.Arbitrary<'nothing' | 'request' | 'answer'>;
    await fc.assert(
      fc.asyncProperty(fc.boolean(), fc.array(fc.tuple(step, fc.boolean()), { maxLength: 8 }), async (isNew, steps) => {
        const { questions, commands, lose } = world();
        if (!isNew) questions.push({ name: 'stored', edit: 1 });
        let at: { questionId: string | null; edit: number } = isNew
          ? { questionId: null, edit: 0 }
          : { questionId: 'q0', edit: 1 };
        let open: UnansweredSave | null = null;
        const note = (save: UnansweredSave | null) => {
          open = save;
        };
        let name = 'typed 0';
        for (const [i, [losing, types]] of [...steps, ['nothing', true] as const].entries()) {
          if (types) name = `typed ${i}`;
          lose(losing);
          const answer = await saveQuestionOnce({ commands, note }, { ...at, input: typed(name) }, open).catch(
            () => null,
          );
          // Whoever added a question goes on with that question.
          if (answer?.ok) at = { questionId: answer.value.questionId, edit: answer.value.edit };
          else expect(answer).toBeNull();
        }
        expect(questions.map((one) => one.name)).toEqual([name]);
      }),
    );
  });
});

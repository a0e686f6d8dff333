import type { Random } from '../src/core/base/random';
import type { QuestionContent } from '../src/core/question/content';
import type { Presentation } from '../src/core/question/presentation';
import { rightResponse } from '../src/core/question/score';
import type { QuestionResponse, ResponseOf } from '../src/core/question/student';
import type { Difficulty } from '../src/core/question/types';

const ease: Record<Difficulty, number> = { easy: 1.3, medium: 0.4, hard: -0.7 };

/** Whether a simulated student of some ability knows a question: a logistic curve over ability and difficulty. */
export function knows(ability: number, difficulty: Difficulty | null, random: Random): boolean {
  const chance = 1 / (1 + Math.exp(-(ability + ease[difficulty ?? 'medium'])));
  return random.below(10_000) < chance * 10_000;
}

/** What a simulated student enters; undefined leaves the question empty. */
export function answer(
  content: QuestionContent,
  presentation: Presentation,
  right: boolean,
  ability: number,
  random: Random,
): QuestionResponse | undefined {
  if (!right && random.below(100) < 5) return undefined;
  switch (content.type) {
    case 'single-choice': {
      const solution = rightResponse(content, presentation) as { picked: string };
      if (right) return solution;
      const wrong = (presentation.choices ?? []).filter((choice) => choice.key !== solution.picked);
      return { picked: wrong[random.below(wrong.length)]?.key ?? '' };
    }
    case 'numeric': {
      const { text } = rightResponse(content, presentation) as { text: string };
      if (right) return { text: random.below(3) === 0 ? text.replace('.', ',') : text };
      const slip = [1.1, 0.5, 2, 0.9, 1.25][random.below(5)] ?? 2;
      return { text: String(Number((Number(text) * slip + random.below(3)).toFixed(1))) };
    }
    case 'written':
      return { text: written(content.modelAnswer, right, ability, random) };
    default:
      return right ? rightResponse(content, presentation) : spoiled(content, presentation, random);
  }
}

/** A believable wrong answer: the right one with something in it gone wrong. */
function spoiled(content: QuestionContent, presentation: Presentation, random: Random): QuestionResponse {
  const solution = rightResponse(content, presentation);
  const some = <T>(items: readonly T[]) => items[random.below(items.length)] as T;
  switch (content.type) {
    case 'multiple-choice': {
      const { picked } = solution as ResponseOf<'multiple-choice'>;
      const key = some(presentation.choices ?? []).key;
      const other = picked.includes(key) ? picked.filter((one) => one !== key) : [...picked, key];
      return { picked: other.length ? other : [key] };
    }
    case 'true-false':
      return { picked: !content.answer };
    case 'short-text':
      return { text: some(['not sure', `the ${content.accepted[0]?.text ?? 'answer'} line`, 'I think it depends']) };
    case 'gap-fill': {
      const { gaps } = solution as ResponseOf<'gap-fill'>;
      const gap = some(content.gaps);
      const given =
        gap.kind === 'pick' ? some(presentation.lists?.[gap.id] ?? []).key : gap.kind === 'number' ? '7' : 'ebb';
      return { gaps: { ...gaps, [gap.id]: given } };
    }
    case 'matching': {
      const { pairs } = solution as ResponseOf<'matching'>;
      const keys = Object.keys(pairs);
      const [a, b] = [some(keys), some(keys)];
      return { pairs: { ...pairs, [a]: pairs[b] as string, [b]: pairs[a] as string } };
    }
    case 'ordering': {
      const order = [...(solution as ResponseOf<'ordering'>).order];
      const at = random.below(order.length - 1);
      order.splice(at, 2, order[at + 1] as string, order[at] as string);
      return { order };
    }
    case 'rating-scale':
      return { step: 1 + random.below(content.steps) };
    default:
      return solution;
  }
}

/** Sentences a student might take from what was taught: more of them, and better ordered, the better the student. */
function written(
  model: Parameters<typeof rightResponse>[0]['stem'],
  right: boolean,
  ability: number,
  random: Random,
): string {
  const said = model.content
    .flatMap((block) => (block.type === 'paragraph' ? (block.content ?? []) : []))
    .map((inline) => (inline.type === 'text' ? inline.text : ' '))
    .join('')
    .split(/[;.]\s*/)
    .map((part) => part.trim())
    .filter(Boolean);
  const share = Math.min(1, Math.max(0.25, 0.55 + ability * 0.2 + (right ? 0.2 : -0.1)));
  const kept = said.filter(() => random.below(100) < share * 100);
  const opening =
    ['I would do it like this.', 'First of all keep calm.', 'As we did on the training day:', 'In my opinion:', ''][
      random.below(5)
    ] ?? '';
  const closing =
    ['That is how I remember it.', 'After that I would check everything again.', 'Safety goes first.', ''][
      random.below(4)
    ] ?? '';
  const links = ['Then ', 'After that ', 'And ', ''];
  const middle = (kept.length ? kept : said.slice(0, 1)).map((part, i) => {
    const text = i === 0 ? part : `${links[random.below(4)]}${part}`;
    return `${text[0]?.toUpperCase()}${text.slice(1)}.`;
  });
  return [opening, ...middle, closing].filter(Boolean).join(' ');
}

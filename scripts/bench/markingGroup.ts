import { seededRandom } from '../../src/core/base/random';
import { groupSimilar } from '../../src/core/marking/similar';
import { inTurn, report } from './measure';

const words = [
  'tide',
  'wind',
  'stream',
  'bearing',
  'depth',
  'light',
  'fog',
  'harbour',
  'vessel',
  'chart',
  'course',
  'speed',
];

/** Short answers as a class gives them: a few wordings, many with a slip of the fingers. */
function shortAnswers(count: number): { id: number; text: string }[] {
  const random = seededRandom('short answers');
  return Array.from({ length: count }, (_, id) => {
    const text = Array.from({ length: 2 + random.below(3) }, () => words[random.below(words.length)]).join(' ');
    const at = random.below(text.length);
    return { id, text: random.below(3) === 0 ? `${text.slice(0, at)}${text.slice(at + 1)}` : text };
  });
}

/** Answers of 300 words: each shares most of its sentences with some of the others. */
function longAnswers(count: number): { id: number; text: string }[] {
  const random = seededRandom('long answers');
  const sentences = Array.from({ length: 60 }, () =>
    Array.from({ length: 15 }, () => words[random.below(words.length)]).join(' '),
  );
  return Array.from({ length: count }, (_, id) => ({
    id,
    text: Array.from(
      { length: 20 },
      (_, i) => sentences[(id % 8) * 5 + ((i + random.below(3)) % 20)] ?? sentences[i],
    ).join('. '),
  }));
}

/**
 * marking.group: groups of alike answers among 2,000 short ones and 500 of 300 words, at 0.8. Baseline: half of each; the
 * growth from half the size to the whole is the ratio, 4 where every pair is compared.
 */
export function markingGroup(): void {
  const [short, long] = [shortAnswers(2_000), longAnswers(500)];
  let groups = 0;
  const work = (some: number) => () => {
    groups =
      groupSimilar(short.slice(0, 2_000 * some), 0.8).length + groupSimilar(long.slice(0, 500 * some), 0.8).length;
  };
  const shortAlone = inTurn(
    3,
    1,
    () => groupSimilar(short, 0.8),
    () => groupSimilar(short.slice(0, 1_000), 0.8),
  );
  const times = inTurn(3, 1, work(1), work(0.5));
  work(1)();
  report({
    name: 'marking.group',
    value: times.work,
    unit: 'ms for 2,000 short answers and 500 of 300 words',
    baseline: times.baseline,
    ratio: times.work / times.baseline,
    shortMs: Math.round(shortAlone.work),
    groups,
  });
}

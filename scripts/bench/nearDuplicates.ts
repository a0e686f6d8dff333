import { nearDuplicates } from '../../src/core/bank/nearDuplicates';
import { contentText } from '../../src/core/question/content';
import { exampleQuestions } from './exampleBank';
import { inTurn, report } from './measure';

/**
 * bank.duplicates: near-duplicates among 5,000 questions, every tenth of them planted twice. Baseline: the same among
 * 2,500; comparing every pair would make the ratio 4.
 */
export function duplicates(): void {
  const texts = (count: number) => {
    const made = exampleQuestions(Math.ceil(count / 1.1)).map((content, i) => ({
      id: `q${i}`,
      text: contentText(content),
    }));
    const planted = made
      .slice(0, count - made.length)
      .map((one) => ({ id: `${one.id}again`, text: `${one.text} plus` }));
    return [...made, ...planted];
  };
  const [all, half] = [texts(5_000), texts(2_500)];
  let found = 0;
  const times = inTurn(
    5,
    1,
    () => {
      found = nearDuplicates(all).length;
    },
    () => {
      nearDuplicates(half);
    },
  );
  report({
    name: 'bank.duplicates',
    value: times.work,
    unit: 'ms for 5,000 questions',
    baseline: times.baseline,
    ratio: times.work / times.baseline,
    found,
  });
}

import { seededRandom } from '../../src/core/base/random';
import { present, rightResponse, scoreResponse } from '../../src/core/question/score';
import { exampleQuestions } from './exampleBank';
import { inTurn, report } from './measure';

/** Papers per run; the figure is scaled to 10,000. */
const papers = 250;
const questions = 40;

/**
 * score.papers: scoring 10,000 papers of 40 mixed questions from their stored responses, most of them right. Baseline:
 * comparing as many stored strings with the string of the right response.
 */
export function scorePapers(): void {
  const contents = exampleQuestions(questions * 5);
  const slots = Array.from({ length: papers * questions }, (_, i) => {
    const content = contents[i % contents.length] as (typeof contents)[number];
    const presentation = present(content, seededRandom(`slot ${i}`));
    const right = rightResponse(content, presentation);
    const response = JSON.parse(
      JSON.stringify(
        i % 4 === 0 ? (Object.fromEntries(Object.keys(right).map((name) => [name, null])) as unknown) : right,
      ),
    );
    return { content, presentation, response, stored: JSON.stringify(response), key: JSON.stringify(right) };
  });
  let credit = 0;
  const work = () => {
    for (const { content, presentation, response } of slots) {
      const scored = scoreResponse(content, presentation, response);
      if (scored.kind === 'credit') credit += scored.credit;
    }
  };
  const baseline = () => {
    for (const { stored, key } of slots) if (stored === key) credit += 1;
  };
  const times = inTurn(5, papers, work, baseline);
  if (credit === 0) throw new Error('Nothing was scored');
  report({
    name: 'score.papers',
    value: times.work * 10_000,
    unit: 'ms per 10,000 papers of 40',
    baseline: times.baseline * 10_000,
    ratio: times.work / times.baseline,
  });
}

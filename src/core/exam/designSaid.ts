import { isEmptyRich } from '../base/rich';
import { pointsText } from '../base/rounding';
import { pointsSaid } from '../base/words';
import { questionTypeNames } from '../question/definitions';
import { planSaid } from '../release/planSaid';
import { noUsualRules, type UsualRules } from '../sitting/lastingRules';
import { noFurtherRules } from '../sitting/rules';
import { furtherSaid } from '../sitting/rulesSaid';
import {
  designCount,
  designPoints,
  type ExamDesign,
  type ExamLine,
  type ExamPart,
  type ExamPurpose,
  type PoolRule,
  usualPurpose,
} from './design';
import { questionOrderSaid } from './orderSaid';

/** What ids are called, for people; an id without a name is gone. */
export type Names = {
  categories: ReadonlyMap<string, string>;
  exams: ReadonlyMap<string, string>;
  questions: ReadonlyMap<string, string>;
  objectives: ReadonlyMap<string, string>;
};

const list = (ids: readonly string[] | undefined, names: ReadonlyMap<string, string>) =>
  (ids ?? []).map((id) => names.get(id) ?? 'something that is gone');

/** A pool in words: where its questions come from, and what they must be. */
function poolSaid(pool: PoolRule, names: Names): string {
  const from = [
    ...pool.categories.map(
      ({ id, below }) => `${names.categories.get(id) ?? 'a category that is gone'}${below ? '' : ' alone'}`,
    ),
    ...list(pool.exams, names.exams).map((title) => `the questions of ${title}`),
    ...(pool.questions?.length ? [`${pool.questions.length} picked by hand`] : []),
  ];
  const must = [
    pool.difficulties.join(' or '),
    (pool.types ?? []).map((type) => questionTypeNames[type].toLowerCase()).join(' or '),
    list(pool.objectives, names.objectives).join(' or '),
    (pool.tags ?? []).map((tag) => `tagged ${tag}`).join(' or '),
    pool.success ? `success rate ${pool.success.from}–${pool.success.to} %` : '',
    pool.restDays ? `rested ${pool.restDays} days` : '',
  ].filter(Boolean);
  return [from.join(', '), ...must].join('; ');
}

/** A line in words. */
export function lineSaid(line: ExamLine, names: Names): string {
  const more = [
    line.required && 'has to be answered',
    line.minutes && `${pointsText(line.minutes)} min each`,
    line.newPage && 'on a new page',
  ].filter(Boolean);
  const said =
    line.kind === 'fixed'
      ? `${names.questions.get(line.questionId) ?? 'a question that is gone'}, ${pointsSaid(line.points)}`
      : line.kind === 'draw'
        ? `draw ${line.count} from ${poolSaid(line.pool, names)}, ${pointsSaid(line.points)} each`
        : `draw ${line.count} passages with ${line.questions} questions each from ${poolSaid(line.pool, names)}, ${pointsSaid(line.points)} each`;
  return [said, ...more].join(', ');
}

const extraSaid = {
  refused: 'more are refused',
  best: 'of more the best count',
  'credit-in-part': 'more are extra credit in the part',
  'credit-in-exam': 'more are extra credit in the exam',
};
/** How many questions of a part are answered, in words. */
export const chooseSaid = ({ choose }: ExamPart) =>
  choose ? `any ${choose.count} are answered, ${extraSaid[choose.extra]}` : 'all are answered';
/** What an exam is for, in words. */
export const purposeSaid = ({ scored, counts, anonymous }: ExamPurpose) =>
  `${scored ? 'scored' : 'not scored'}, counts ${counts === 'score' ? 'by score' : counts === 'no' ? 'not at all' : 'for taking part'}, ${anonymous ? 'anonymous' : 'named'}`;
/** How questions come on the screen, in words. */
export const pagesSaid = {
  each: 'one question at a time',
  all: 'all on one page',
  breaks: 'broken where the author says',
};
/** What an exam is worth in the gradebook, in words. */
export const worthSaid = (worth: number | null) => (worth === null ? 'its points' : pointsText(worth));
/** How closely alike in difficulty papers must be, in words. */
export const hardSaid = (design: ExamDesign) =>
  design.equalHardness ? `within ${design.equalHardness.within} of 100` : 'not asked for';
/**
 * What sittings of an exam usually begin with, in words.
 *
 * @example usualSaid({ timeLimitMinutes: null, attemptsAllowed: 1, attemptCounts: 'best' }) // 'no time limit, one attempt, best counts'
 */
export const usualSaid = (usual: UsualRules) => {
  const { timeLimitMinutes, attemptsAllowed, attemptCounts } = usual;
  const whole = `${timeLimitMinutes === null ? 'no time limit' : `${timeLimitMinutes} min${usual.fullTimeOnceStarted ? ' also past the closing' : ''}`}, ${attemptsAllowed === null ? 'any number of attempts' : attemptsAllowed === 1 ? 'one attempt' : `${attemptsAllowed} attempts`}, ${attemptCounts} counts`;
  const further = usualFurtherSaid(usual);
  return further.length ? `${whole}; ${further.map((one) => one.replace(/\.$/, '')).join('; ')}` : whole;
};

/** The further rules an exam is usually given under, and what its students see when: a sentence for each that is set. */
export const usualFurtherSaid = ({ timeLimitMinutes, attemptsAllowed, further, releasePlan }: UsualRules): string[] => [
  ...(further
    ? furtherSaid({ ...noFurtherRules, ...further, attemptsAllowed, timeLimit: timeLimitMinutes, closes: null })
    : []),
  // Of moments of one day none is kept with the exam, so that the zone says nothing.
  ...(releasePlan ? planSaid(releasePlan, 'UTC', false).map((said) => `Students see: ${said}`) : []),
];

/** A whole design in words: what holds for all of it, and its parts with their lines. */
export type DesignSaid = {
  whole: string[];
  parts: { id: string; title: string; said: string; lines: { id: string; number: string; said: string }[] }[];
};

/** Says a design in words, for someone who reads it through. The items of an off-screen exam are counted, not listed. */
export function designSaid(design: ExamDesign, names: Names): DesignSaid {
  const what = design.offScreen ? 'items' : 'questions';
  return {
    whole: [
      `${designCount(design)} ${what}, ${pointsSaid(designPoints(design))}; worth in the gradebook: ${worthSaid(design.worth)}.`,
      `The exam is ${purposeSaid(design.purpose ?? usualPurpose)}.`,
      ...(design.offScreen
        ? ['Its questions stand on paper.']
        : [
            `Pages: ${pagesSaid[design.pages ?? 'each']}. Choices: ${design.choices ? 'never shuffled' : 'shuffled where their question allows it'}.`,
            `Equally hard papers: ${hardSaid(design)}.`,
          ]),
      `Usually given with ${usualSaid(design.usual ?? noUsualRules)}.`,
      ...(isEmptyRich(design.instructions) ? ['There are no instructions.'] : []),
    ],
    parts: design.parts.map((part, p) => ({
      id: part.id,
      title: part.title,
      said: design.offScreen
        ? `${part.lines.length} items.`
        : `${questionOrderSaid(part)}${part.choose ? ` Of its questions ${chooseSaid(part)}.` : ''}`,
      lines: design.offScreen
        ? []
        : part.lines.map((line, l) => ({ id: line.id, number: `${p + 1}.${l + 1}`, said: lineSaid(line, names) })),
    })),
  };
}

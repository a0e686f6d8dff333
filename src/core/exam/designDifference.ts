import { isEmptyRich, richText } from '../base/rich';
import { pointsText } from '../base/rounding';
import { questionTypeNames } from '../question/types';
import {
  type ExamDesign,
  type ExamLine,
  type ExamPart,
  type ExamPurpose,
  noUsualRules,
  type PoolRule,
  type UsualRules,
  usualPurpose,
} from './design';

/** What ids are called, for people; an id without a name is gone. */
export type Names = {
  categories: ReadonlyMap<string, string>;
  exams: ReadonlyMap<string, string>;
  questions: ReadonlyMap<string, string>;
  objectives: ReadonlyMap<string, string>;
};

/** One change between two revisions, in words, and the part it is about; null for the exam as a whole. */
export type DesignChange = { part: string | null; says: string };

const points = (value: number) => `${pointsText(value)} ${value === 1 ? 'point' : 'points'}`;
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
      ? `${names.questions.get(line.questionId) ?? 'a question that is gone'}, ${points(line.points)}`
      : line.kind === 'draw'
        ? `draw ${line.count} from ${poolSaid(line.pool, names)}, ${points(line.points)} each`
        : `draw ${line.count} passages with ${line.questions} questions each from ${poolSaid(line.pool, names)}, ${points(line.points)} each`;
  return [said, ...more].join(', ');
}

const extraSaid = {
  refused: 'more are refused',
  best: 'of more the best count',
  'credit-in-part': 'more are extra credit in the part',
  'credit-in-exam': 'more are extra credit in the exam',
};
const chooseSaid = ({ choose }: ExamPart) =>
  choose ? `any ${choose.count} are answered, ${extraSaid[choose.extra]}` : 'all are answered';
const purposeSaid = ({ scored, counts, anonymous }: ExamPurpose) =>
  `${scored ? 'scored' : 'not scored'}, counts ${counts === 'score' ? 'by score' : counts === 'no' ? 'not at all' : 'for taking part'}, ${anonymous ? 'anonymous' : 'named'}`;
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * What changed from one revision of an exam to another, in words and in the order of the later one: what is new, what is
 * gone, what says something else, what stands elsewhere. Nothing where both draw and look alike.
 */
export function designDifference(before: ExamDesign, after: ExamDesign, names: Names): DesignChange[] {
  const changes: DesignChange[] = [];
  const whole = (says: string) => changes.push({ part: null, says });
  const from = (was: string, is: string) => `${is}; before: ${was}`;
  const [was, is] = [before.purpose ?? usualPurpose, after.purpose ?? usualPurpose];
  if (!same(was, is)) whole(`What it is for: ${from(purposeSaid(was), purposeSaid(is))}.`);
  const pagesSaid = { each: 'one question at a time', all: 'all on one page', breaks: 'broken where the author says' };
  if ((before.pages ?? 'each') !== (after.pages ?? 'each'))
    whole(`Pages: ${from(pagesSaid[before.pages ?? 'each'], pagesSaid[after.pages ?? 'each'])}.`);
  if (before.choices !== after.choices)
    whole(`Choices: ${after.choices ? 'never shuffled' : 'shuffled where their question allows it'}.`);
  if ((before.labels ?? 'A') !== (after.labels ?? 'A'))
    whole(`Labels of choices: ${from(before.labels ?? 'A', after.labels ?? 'A')}.`);
  const worthSaid = (worth: number | null) => (worth === null ? 'its points' : pointsText(worth));
  if (before.worth !== after.worth) whole(`Worth: ${from(worthSaid(before.worth), worthSaid(after.worth))}.`);
  const hardSaid = (design: ExamDesign) =>
    design.equalHardness ? `within ${design.equalHardness.within} of 100` : 'not asked for';
  if (hardSaid(before) !== hardSaid(after)) whole(`Equally hard papers: ${from(hardSaid(before), hardSaid(after))}.`);
  if (richText(before.instructions) !== richText(after.instructions))
    whole(isEmptyRich(after.instructions) ? 'The instructions are gone.' : 'The instructions are changed.');
  else if (!same(before.instructions, after.instructions)) whole('The form of the instructions is changed.');
  const usualSaid = ({ timeLimitMinutes, attemptsAllowed, attemptCounts }: UsualRules) =>
    `${timeLimitMinutes === null ? 'no time limit' : `${timeLimitMinutes} min`}, ${attemptsAllowed === null ? 'any number of attempts' : attemptsAllowed === 1 ? 'one attempt' : `${attemptsAllowed} attempts`}, ${attemptCounts} counts`;
  const [usualBefore, usualAfter] = [before.usual ?? noUsualRules, after.usual ?? noUsualRules];
  if (!same(usualBefore, usualAfter))
    whole(`Usually given with ${from(usualSaid(usualBefore), usualSaid(usualAfter))}.`);
  if (!same(before.targets ?? [], after.targets ?? [])) whole('The targets of the plan are changed.');

  const partsBefore = new Map(before.parts.map((part) => [part.id, part]));
  const linesBefore = new Map(
    before.parts.flatMap((part) => part.lines.map((line) => [line.id, { line, part }] as const)),
  );
  const linesAfter = new Set(after.parts.flatMap((part) => part.lines.map((line) => line.id)));
  const kept = (parts: ExamDesign['parts'], others: ReadonlySet<string>) =>
    parts.map((part) => part.id).filter((id) => others.has(id));
  const [orderBefore, orderAfter] = [
    kept(before.parts, new Set(after.parts.map((part) => part.id))),
    kept(after.parts, new Set(partsBefore.keys())),
  ];
  if (!same(orderBefore, orderAfter)) whole('The parts stand in another order.');
  for (const part of after.parts) {
    const say = (says: string) => changes.push({ part: part.title, says });
    const old = partsBefore.get(part.id);
    if (!old) say('This part is new.');
    else {
      if (old.title !== part.title) say(`Its heading was ${old.title}.`);
      if (old.order !== part.order)
        say(part.order === 'shuffled' ? 'Its questions are shuffled now.' : 'Its questions keep their order now.');
      if (!same(old.choose, part.choose)) say(`Of its questions ${from(chooseSaid(old), chooseSaid(part))}.`);
    }
    const stayed = (lines: readonly ExamLine[], others: ReadonlySet<string>) =>
      lines.map((line) => line.id).filter((id) => others.has(id));
    if (old) {
      const [was, is] = [
        stayed(old.lines, new Set(part.lines.map((line) => line.id))),
        stayed(part.lines, new Set(old.lines.map((line) => line.id))),
      ];
      if (!same(was, is)) say('Its lines stand in another order.');
    }
    for (const line of part.lines) {
      const held = linesBefore.get(line.id);
      const said = lineSaid(line, names);
      if (!held) say(`New: ${said}.`);
      else {
        if (held.part.id !== part.id) say(`From ${held.part.title}: ${said}.`);
        const wasSaid = lineSaid(held.line, names);
        if (wasSaid !== said) say(`${from(wasSaid, said)}.`);
        else if (!same(held.line, line)) say(`Changed in its details: ${said}.`);
      }
    }
  }
  for (const part of before.parts)
    if (!after.parts.some((one) => one.id === part.id)) changes.push({ part: part.title, says: 'This part is gone.' });
  for (const { line, part } of linesBefore.values())
    if (!linesAfter.has(line.id)) changes.push({ part: part.title, says: `Gone: ${lineSaid(line, names)}.` });
  return changes;
}

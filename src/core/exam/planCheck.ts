import { oneOrMany } from '../base/words';
import { designCount, designPoints, type ExamDesign, partCount } from './design';
import { planDraw, poolSizesOf } from './drawPlan';
import { type Hardness, hardnessOf } from './equalHardness';
import { competitions } from './matching';
import { type PointSpread, pointSpread } from './pointSpread';
import type { PoolSnapshot } from './snapshot';

/** Something that keeps an exam from being given, with the part or line where it is mended. */
export type PlanProblem = {
  code:
    | 'no-lines'
    | 'empty-part'
    | 'choose-too-many'
    | 'empty-pool'
    | 'pool-too-small'
    | 'lines-compete'
    | 'question-missing'
    | 'question-twice'
    | 'picked-missing'
    | 'item-without-key'
    | 'category-missing'
    | 'exam-missing';
  message: string;
  partId?: string;
  lineIds: string[];
  /** The questions that competing lines have between them. */
  questionIds?: string[];
};

/** What papers of a design would be, and what keeps them from being drawn. */
export type PlanCheck = {
  points: number;
  questions: number;
  /** For each draw line, how many questions its pool holds after the fixed questions have left it. */
  poolSizes: Record<string, number>;
  problems: PlanProblem[];
  /** How hard papers are expected to be; null where none can be drawn. */
  hardness: Hardness | null;
  /** How the points spread, and the minutes. */
  spread: PointSpread;
};

/** More questions than this need not be listed by name. */
const mostCompeting = 200;

/**
 * Checks a design over the bank as it stands. Papers can be drawn exactly when `problems` is empty; where draws compete,
 * the message says which and how many questions are missing (from the deficient set of a maximum matching).
 *
 * @param categoryNames the names of all categories that exist, by id
 * @param examTitles the titles of all exams that can be drawn from, by id
 * @param keyless the items of an off-screen exam that have no key yet, in their order
 */
export function planCheck(
  design: ExamDesign,
  snapshot: PoolSnapshot,
  categoryNames: ReadonlyMap<string, string>,
  examTitles: ReadonlyMap<string, string> = new Map(),
  keyless: readonly { questionId: string; label: string }[] = [],
): PlanCheck {
  const plan = planDraw(design, snapshot);
  const problems: PlanProblem[] = [];
  const numberOf = new Map<string, string>();
  for (const [p, part] of design.parts.entries()) {
    if (part.lines.length === 0 && !design.offScreen)
      problems.push({ code: 'empty-part', message: `${part.title} has no lines.`, partId: part.id, lineIds: [] });
    const has = partCount(part);
    if (part.choose && has > 0 && part.choose.count > has)
      problems.push({
        code: 'choose-too-many',
        message: `${part.title} asks for any ${part.choose.count} of its questions, but has ${has === 1 ? 'only one' : `only ${has}`}.`,
        partId: part.id,
        lineIds: [],
      });
    for (const [l, line] of part.lines.entries()) numberOf.set(line.id, `${p + 1}.${l + 1}`);
  }
  const lines = design.parts.flatMap((part) => part.lines);
  if (lines.length === 0)
    problems.push({
      code: 'no-lines',
      message: `The exam has no ${design.offScreen ? 'items' : 'questions'} yet.`,
      lineIds: [],
    });

  const places = new Map<string, string[]>();
  for (const line of lines)
    if (line.kind === 'fixed') places.set(line.questionId, [...(places.get(line.questionId) ?? []), line.id]);
  for (const lineIds of places.values())
    if (lineIds.length > 1)
      problems.push({
        code: 'question-twice',
        message: `The same question stands on lines ${lineIds.map((id) => numberOf.get(id)).join(' and ')}.`,
        lineIds,
      });
  for (const questionId of plan.missing)
    problems.push({
      code: 'question-missing',
      message: `The question of line ${numberOf.get(places.get(questionId)?.[0] ?? '')} is no longer in the course's banks.`,
      lineIds: places.get(questionId) ?? [],
    });

  if (keyless.length > 0) {
    const named = keyless.slice(0, 8).map((item) => item.label);
    const more = keyless.length - named.length;
    problems.push({
      code: 'item-without-key',
      message: `${keyless.length === 1 ? 'One item has' : `${keyless.length} items have`} no key yet: ${named.join(', ')}${more ? ` and ${more} more` : ''}.`,
      lineIds: [],
    });
  }
  const present = new Set(snapshot.entries.map((entry) => entry.questionId));
  for (const line of lines) {
    if (line.kind === 'fixed') continue;
    if (line.pool.categories.some((category) => !categoryNames.has(category.id)))
      problems.push({
        code: 'category-missing',
        message: `Line ${numberOf.get(line.id)} draws from a category that no longer exists.`,
        lineIds: [line.id],
      });
    const gone = (line.pool.questions ?? []).filter((id) => !present.has(id)).length;
    if (gone > 0)
      problems.push({
        code: 'picked-missing',
        message: `Line ${numberOf.get(line.id)} draws from ${gone === 1 ? 'a question' : `${gone} questions`} picked by hand that ${oneOrMany(gone, 'is', 'are')} no longer in the course's banks.`,
        lineIds: [line.id],
      });
    if (line.pool.exams?.some((exam) => !examTitles.has(exam)))
      problems.push({
        code: 'exam-missing',
        message: `Line ${numberOf.get(line.id)} draws from an exam that this course no longer has.`,
        lineIds: [line.id],
      });
  }
  const alone = new Set<string>();
  const isPassages = new Set(plan.passages.draws.map((draw) => draw.lineId));
  for (const draw of [...plan.draws, ...plan.passages.draws]) {
    const what = isPassages.has(draw.lineId) ? 'passages with enough questions' : 'questions';
    if (draw.pool.length >= draw.count) continue;
    alone.add(draw.lineId);
    const number = numberOf.get(draw.lineId);
    problems.push(
      draw.pool.length === 0
        ? { code: 'empty-pool', message: `Line ${number} has no ${what} to draw from.`, lineIds: [draw.lineId] }
        : {
            code: 'pool-too-small',
            message:
              `Line ${number} draws ${draw.count} from a pool of ${draw.pool.length} ${what === 'questions' ? '' : what}: ${draw.count - draw.pool.length} missing.`.replace(
                ' :',
                ':',
              ),
            lineIds: [draw.lineId],
          },
    );
  }
  for (const [all, what] of [
    [plan.draws, 'questions'],
    [plan.passages.draws, 'passages'],
  ] as const) {
    const fitting = all.filter((draw) => !alone.has(draw.lineId));
    for (const { draws, asked, available, missing, questions } of competitions(fitting)) {
      const lineIds = draws.map((i) => (fitting[i] as { lineId: string }).lineId);
      problems.push({
        code: 'lines-compete',
        message: `Lines ${lineIds.map((id) => numberOf.get(id)).join(', ')} together draw ${asked} ${what}, but their pools hold only ${available} different ones: ${missing} missing.`,
        lineIds,
        ...(what === 'questions'
          ? { questionIds: questions.map((i) => snapshot.entries[i]?.questionId ?? '').slice(0, mostCompeting) }
          : {}),
      });
    }
  }
  return {
    points: designPoints(design),
    questions: designCount(design),
    poolSizes: poolSizesOf(plan),
    problems,
    spread: pointSpread(design, snapshot, plan),
    hardness: problems.length ? null : hardnessOf(design, snapshot, plan),
  };
}

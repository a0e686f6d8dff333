import { isEmptyRich, type Rich, richNodes } from '../base/rich';
import { pointsSaid } from '../base/words';
import type { QuestionContent } from '../question/content';
import { definitionOf } from '../question/definitions';
import type { Presentation } from '../question/presentation';
import { responseText, rightResponse } from '../question/score';
import { forStudent } from '../question/student';
import { withValues } from '../question/withValues';
import type { ChooseRule, ExamDesign } from './design';
import { choosePartsOf, paperRules } from './paperRules';
import type { PrintedPaper, PrintedSlot } from './printedPaper';

/** A slot of a paper with all it takes to print it. */
export type PrintSource = {
  partId: string;
  partTitle: string;
  lineId: string;
  points: number;
  passageId: string | null;
  content: QuestionContent;
  presentation: Presentation;
};

const chooseSaid = ({ count }: ChooseRule, has: number) => `Answer any ${count} of these ${has} questions.`;

/**
 * Lays a paper out for printing. Without its key a paper holds what a student may see, and nothing else: the student's
 * view of each question.
 */
export function layOutPrint(
  paper: Pick<PrintedPaper, 'title' | 'student' | 'code' | 'withKey'>,
  design: ExamDesign,
  sources: readonly PrintSource[],
  passages: ReadonlyMap<string, Rich>,
): PrintedPaper {
  const rules = paperRules(design, sources);
  const choose = choosePartsOf(design);
  let possible = 0;
  const counted = new Set<string>();
  const slots = sources.map((source, i): PrintedSlot => {
    const { content, presentation, partId } = source;
    const before = sources[i - 1];
    const opensPart = before?.partId !== partId;
    const rule = choose.get(partId);
    const has = sources.filter((one) => one.partId === partId).length;
    if (!rule) possible += source.points;
    else if (!counted.has(partId)) possible += Math.min(rule.count, has) * source.points;
    counted.add(partId);
    const solution = withValues(content, presentation).feedback?.solution;
    return {
      number: i + 1,
      heading: opensPart ? source.partTitle : null,
      choose: opensPart && rule ? chooseSaid(rule, has) : null,
      points: pointsSaid(source.points),
      required: rules[i]?.required ?? false,
      view: forStudent(content, presentation),
      passage:
        source.passageId && source.passageId !== before?.passageId ? (passages.get(source.passageId) ?? null) : null,
      key: paper.withKey
        ? {
            text: responseText(content, presentation, rightResponse(content, presentation)),
            right: definitionOf(content.type).boxes(rightResponse(content, presentation)),
            solution: solution && !isEmptyRich(solution) ? solution : null,
          }
        : null,
    };
  });
  return {
    ...paper,
    points: design.purpose?.scored === false ? '' : pointsSaid(possible),
    instructions: design.instructions,
    slots,
  };
}

/** The hashes of all pictures that papers show. */
export function picturesOn(papers: readonly unknown[]): Set<string> {
  const hashes = new Set<string>();
  const walk = (value: unknown): void => {
    if (Array.isArray(value)) value.forEach(walk);
    else if (typeof value === 'object' && value !== null) {
      const { type, content } = value as { type?: unknown; content?: unknown };
      if (type === 'doc' && Array.isArray(content)) {
        for (const node of richNodes(value as Rich))
          if (node.type === 'media' && node.attrs.kind === 'picture') hashes.add(node.attrs.hash);
      } else Object.values(value).forEach(walk);
    }
  };
  walk(papers);
  return hashes;
}

import { pointsText } from '@/core/base/rounding';
import { type ExamDesign, lineCount } from '@/core/exam/design';

const words: Record<string, string> = {
  title: 'title',
  count: 'how many questions',
  points: 'points',
  pool: 'where its questions come from',
  questionId: 'its question',
  minutes: 'time of its own',
  required: 'whether it has to be answered',
  order: 'order',
  choose: 'how many are to be answered',
  instructions: 'instructions',
  labels: 'labels of choices',
  pages: 'pages',
  worth: 'worth',
};

/** Names a place of a plan by the way that leads there. */
export function placeInPlan(design: ExamDesign, path: readonly string[]): string {
  const [first, ...rest] = path;
  if (first === 'title') return 'Title of the exam';
  if (rest[0] !== 'parts' || rest[1] === undefined) return said(rest);
  const part = design.parts.find((one) => one.id === rest[1]);
  const inPart = part ? part.title : 'A part that is gone';
  if (rest[2] !== 'lines' || rest[3] === undefined) return [inPart, said(rest.slice(2))].filter(Boolean).join(': ');
  const place = part?.lines.findIndex((line) => line.id === rest[3]) ?? -1;
  const line = place < 0 ? 'a line' : `line ${place + 1}`;
  return [`${inPart}, ${line}`, said(rest.slice(4))].filter(Boolean).join(': ');
}

/** The name of a setting, from the first word of its way that has one. */
const said = (path: readonly string[]): string =>
  path.length === 0 ? '' : (path.map((step) => words[step]).find(Boolean) ?? path[0] ?? '');

/** What somebody left at a place of a plan, in short. */
export function valueInPlan(value: unknown): string {
  if (value === undefined || value === null) return 'removed';
  if (typeof value === 'string') return `“${value}”`;
  if (typeof value === 'number') return pointsText(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'object' && 'lines' in value && Array.isArray(value.lines))
    return `kept, with ${value.lines.reduce((sum, line) => sum + (lineCount(line) || 0), 0)} questions`;
  return 'changed';
}

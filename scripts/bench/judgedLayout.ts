import { knownTable, readTable } from '../../src/core/bank/bringIn/readTable';
import type { Result } from '../../src/core/base/result';
import { type Judged, judge, type Layout } from '../../src/core/testing/layouts/layout';
import { type ReadQuestions, readings } from '../../src/server/outside/readings';
import { pastedLines, pastedTable } from '../../src/ui/bank/pastedLines';

const value = <T>(result: Result<T>): T => {
  if (!result.ok) throw new Error(result.problems[0]?.message);
  return result.value;
};

function readLayout({ source }: Layout): ReadQuestions {
  if (source.kind === 'text') return value(readings.questionsInLines(source.text, {}, {}));
  if (source.kind === 'csv') return value(readings.questionsInFile(source.bytes, {}, null));
  const table = knownTable(source.kind === 'html' ? (pastedTable(source.html) ?? []) : source.rows);
  if (table) return { table };
  if (source.kind === 'html') return value(readings.questionsInLines(pastedLines(source.html), {}, {}));
  throw new Error('This is no table of questions.');
}

/** How a layout is read, as its way into the app reads it. A page (DOMParser) has to be there for what was pasted. */
export function judgedLayout(layout: Layout): Judged {
  const found = readLayout(layout);
  if ('table' in found) {
    const { rows, fields, hasHeadings } = found.table;
    return judge(layout, readTable(rows, fields, hasHeadings), 0);
  }
  return judge(layout, found.items, found.roles.filter((one) => one.role === 'unread').length);
}

import { filterFromQuery } from '@/core/bank/questionFilter';
import { csvText } from '@/core/base/csv';
import { takeOut } from '@/server/bringIn/bringIn';
import { contextFor } from '@/server/house/context';
import { writeXlsx } from '@/server/house/writeXlsx';
import { actorOf } from '@/server/people/auth';
import { refuse, reply } from '../../../../../api/reply';

/** The questions that match the address's filter as a table: `?as=csv` or `?as=xlsx`. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const { courseId, bankId } = await params;
  const query = Object.fromEntries(new URL(request.url).searchParams);
  const table = takeOut(contextFor(actor, request.headers), courseId, bankId, filterFromQuery(query));
  if (!table.ok) return reply(table);
  const [headings = [], ...rows] = table.value;
  const asCsv = query.as === 'csv';
  const body = asCsv ? csvText(headings, rows) : Buffer.from(await writeXlsx('questions', table.value));
  return new Response(body, {
    headers: {
      'Content-Type': asCsv
        ? 'text/csv; charset=utf-8'
        : 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      'Content-Disposition': `attachment; filename="questions.${asCsv ? 'csv' : 'xlsx'}"`,
      'Cache-Control': 'no-store',
    },
  });
}

import { applyGrades, gradebookSheet, largestGradeSheet, previewGrades } from '@/server/gradebook/gradeSheets';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { receiving, refuse, reply } from '../../../../api/reply';

type Route = { params: Promise<{ courseId: string }> };

const types = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
};

/** The gradebook as a table: `?format=csv` or `?format=xlsx`, and `?names=no` without names. */
export async function GET(request: Request, { params }: Route) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const asked = new URL(request.url).searchParams;
  const format = asked.get('format') === 'xlsx' ? 'xlsx' : 'csv';
  const sheet = await gradebookSheet(contextFor(actor, request.headers), (await params).courseId, {
    format,
    names: asked.get('names') !== 'no',
  });
  if (!sheet.ok) return reply(sheet);
  const { fileName, bytes } = sheet.value;
  return new Response(Buffer.from(bytes), {
    headers: {
      'Content-Type': types[format],
      'Content-Disposition': `attachment; filename="gradebook.${format}"; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'Cache-Control': 'no-store',
    },
  });
}

/** Reads scores for manual columns: without `?key=…` a preview that changes nothing, with it they are taken over. */
export async function POST(request: Request, { params }: Route) {
  const { courseId } = await params;
  const key = new URL(request.url).searchParams.get('key');
  return receiving(request, {
    most: largestGradeSheet,
    admits: (context) => applyGrades.admits(context, courseId),
    does: (context, bytes) =>
      key ? applyGrades(context, courseId, bytes, key) : previewGrades(context, courseId, bytes),
    whenItFails: 'The file could not be read. Nothing was changed; try again.',
  });
}

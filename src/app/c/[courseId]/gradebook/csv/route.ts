import { gradebookCsv } from '@/server/gradebook/gradebook';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { refuse, reply } from '../../../../api/reply';

export async function GET(request: Request, { params }: { params: Promise<{ courseId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const csv = gradebookCsv(contextFor(actor), (await params).courseId);
  if (!csv.ok) return reply(csv);
  const { fileName, text } = csv.value;
  return new Response(text, {
    headers: {
      'Content-Type': 'text/csv; charset=utf-8',
      'Content-Disposition': `attachment; filename="gradebook.csv"; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'Cache-Control': 'no-store',
    },
  });
}

import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { printReport, reports } from '@/server/release/sittingReport';
import { pdfReply } from '../../../../../../api/pdfReply';
import { refuse, reply } from '../../../../../../api/reply';

/** A report of a sitting as a PDF: `?kind=class`, `?kind=students` or `?kind=questions`. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, sittingId } = await params;
  const asked = new URL(request.url).searchParams.get('kind');
  const kind = reports.find((one) => one === asked) ?? 'class';
  const printed = await printReport(contextFor(actor), courseId, sittingId, kind);
  return printed.ok ? pdfReply(printed.value.bytes, printed.value.name) : reply(printed);
}

import { attachDocument, largestDocument } from '@/server/exam/examDocument';
import { replyTo, uploading } from '../../../../../api/reply';

/** Takes the paper of an off-screen exam as a document. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const sent = await uploading(request, largestDocument);
  if (!sent.ok) return sent.response;
  const { courseId, examId } = await params;
  const name = new URL(request.url).searchParams.get('name') ?? '';
  return replyTo(
    sent.context,
    () => attachDocument(sent.context, courseId, examId, { name, bytes: sent.bytes }),
    'The document could not be stored. Try again.',
  );
}

import { attachDocument, largestDocument } from '@/server/exam/examDocument';
import { receiving } from '../../../../../api/reply';

/** Takes the paper of an off-screen exam as a document. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const { courseId, examId } = await params;
  const name = new URL(request.url).searchParams.get('name') ?? '';
  return receiving(request, {
    most: largestDocument,
    admits: (context) => attachDocument.admits(context, courseId, examId),
    does: (context, bytes) => attachDocument(context, courseId, examId, { name, bytes: bytes }),
    whenItFails: 'The document could not be stored. Try again.',
  });
}

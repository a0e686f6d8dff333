import { largestAnswerFile, takeAnswerFile } from '@/server/attempt/answerFiles';
import { replyTo, uploading } from '../../../reply';

/** Takes a file for an answer: `?slot=…&name=…`, the file itself as the body. */
export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const sent = await uploading(request, largestAnswerFile);
  if (!sent.ok) return sent.response;
  const query = new URL(request.url).searchParams;
  const { attemptId } = await params;
  return replyTo(
    sent.context,
    () => takeAnswerFile(sent.context, attemptId, query.get('slot') ?? '', query.get('name') ?? '', sent.bytes),
    'The file could not be stored. Try again.',
  );
}

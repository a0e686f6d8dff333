import { largestAnswerFile, takeAnswerFile } from '@/server/attempt/answerFiles';
import { receiving } from '../../../reply';

/** Takes a file for an answer: `?slot=…&name=…`, the file itself as the body. */
export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const query = new URL(request.url).searchParams;
  const { attemptId } = await params;
  return receiving(request, {
    most: largestAnswerFile,
    admits: (context) => takeAnswerFile.admits(context, attemptId),
    does: (context, bytes) =>
      takeAnswerFile(context, attemptId, query.get('slot') ?? '', query.get('name') ?? '', bytes),
    whenItFails: 'The file could not be stored. Try again.',
  });
}

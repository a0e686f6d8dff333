import { largestMedia, storeMedia } from '@/server/bank/media';
import { refuse, reply, uploading } from '../../../../../api/reply';

/** Takes a picture, sound or video for a bank. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const sent = await uploading(request, largestMedia);
  if (!sent.ok) return sent.response;
  const { courseId, bankId } = await params;
  try {
    return reply(await storeMedia(sent.context, courseId, bankId, sent.bytes));
  } catch (why) {
    console.error(why);
    return refuse('busy', 'The file could not be stored. Try again.');
  }
}

import { largestMedia, storeMedia } from '@/server/bank/media';
import { replyTo, uploading } from '../../../../../api/reply';

/** Takes a picture, sound or video for a bank. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const sent = await uploading(request, largestMedia);
  if (!sent.ok) return sent.response;
  const { courseId, bankId } = await params;
  return replyTo(
    sent.context,
    () => storeMedia(sent.context, courseId, bankId, sent.bytes),
    'The file could not be stored. Try again.',
  );
}

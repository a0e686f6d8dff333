import { largestMedia, storeMedia } from '@/server/bank/media';
import { receiving } from '../../../../../api/reply';

/** Takes a picture, sound or video for a bank. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const { courseId, bankId } = await params;
  return receiving(request, {
    most: largestMedia,
    admits: (context) => storeMedia.admits(context, courseId, bankId),
    does: (context, bytes) => storeMedia(context, courseId, bankId, bytes),
    whenItFails: 'The file could not be stored. Try again.',
  });
}

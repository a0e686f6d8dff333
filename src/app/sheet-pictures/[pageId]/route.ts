import { openSheet } from '@/server/answerSheet/sheetPictures';
import { keptPicture } from '../../api/keptPicture';

/** The picture of a page of an answer sheet. */
export async function GET(request: Request, { params }: { params: Promise<{ pageId: string }> }) {
  const { pageId } = await params;
  return keptPicture(request, (context) => openSheet(context, pageId));
}

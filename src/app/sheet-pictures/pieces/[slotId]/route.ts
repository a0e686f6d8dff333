import { openSheetPiece } from '@/server/answerSheet/sheetPictures';
import { keptPicture } from '../../../api/keptPicture';

/** The piece of an answer sheet on which one question was answered. */
export async function GET(request: Request, { params }: { params: Promise<{ slotId: string }> }) {
  const { slotId } = await params;
  return keptPicture(request, (context) => openSheetPiece(context, slotId));
}

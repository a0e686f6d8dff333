import { openAnswerFile } from '@/server/attempt/answerFiles';
import { keptDownload } from '../../api/keptDownload';

/** A file handed in with an answer. */
export async function GET(request: Request, { params }: { params: Promise<{ fileId: string }> }) {
  const { fileId } = await params;
  return keptDownload(request, (context) => openAnswerFile(context, fileId));
}

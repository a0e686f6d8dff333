import { openReturnedFile } from '@/server/release/openReturnedFile';
import { keptDownload } from '../../api/keptDownload';

/** An annotated file that goes back with an answer. */
export async function GET(request: Request, { params }: { params: Promise<{ fileId: string }> }) {
  const { fileId } = await params;
  return keptDownload(request, (context) => openReturnedFile(context, fileId));
}

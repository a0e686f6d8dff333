import { unpackPage } from '@/core/answerSheet/pageParcel';
import { refused } from '@/core/base/result';
import { bringSheetPage, largestSheetPicture } from '@/server/answerSheet/bringPages';
import { receiving } from '../../../../../../api/reply';

/** Takes a page that was read, with its picture. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  return receiving(request, {
    most: largestSheetPicture,
    admits: (context) => bringSheetPage.admits(context, courseId, sittingId),
    does(context, bytes) {
      const page = unpackPage(bytes);
      if (!page) return refused('bad-input', 'This is no page of a sheet.');
      // What was found is read by the schema of the use-case.
      return bringSheetPage(context, courseId, sittingId, page.found as never, page.picture);
    },
    whenItFails: 'The page could not be kept. Try again.',
  });
}

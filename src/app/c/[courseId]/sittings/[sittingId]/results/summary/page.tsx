import { orNotFound, page } from '@/app/pages';
import { questionGrid } from '@/server/release/questionGrid';
import { WallPage } from '@/ui/release/WallPage';

export const metadata = { title: 'For the wall' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const { rows, ...grid } = orNotFound(questionGrid(context, courseId, sittingId));
  // No name and no row of anybody reaches the page that is projected.
  const percents = rows.flatMap((row) => (row.waiting === 0 ? (row.percent ?? []) : [])).sort((a, b) => a - b);
  return <WallPage base={`/c/${courseId}`} sittingId={sittingId} grid={grid} percents={percents} />;
});

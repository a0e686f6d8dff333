import type { Metadata } from 'next';
import { questionGrid } from '@/server/release/questionGrid';
import { WallPage } from '@/ui/release/WallPage';
import { orNotFound, pageContext } from '../../../../../../request';

export const metadata: Metadata = { title: 'For the wall' };

export default async function Summary({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const { rows, ...grid } = orNotFound(questionGrid(await pageContext(), courseId, sittingId));
  // No name and no row of anybody reaches the page that is projected.
  const percents = rows.flatMap((row) => (row.waiting === 0 ? (row.percent ?? []) : [])).sort((a, b) => a - b);
  return <WallPage base={`/c/${courseId}`} sittingId={sittingId} grid={grid} percents={percents} />;
}

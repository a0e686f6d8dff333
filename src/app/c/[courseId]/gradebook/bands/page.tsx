import type { Metadata } from 'next';
import { workbench } from '@/server/gradebook/workbench';
import { BandsPage } from '@/ui/gradebook/BandsPage';
import { commandsIn } from '../../../../commands';
import { orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'Bands' };

type Props = { params: Promise<{ courseId: string }>; searchParams: Promise<{ sitting?: string }> };

export default async function Bands({ params, searchParams }: Props) {
  const { courseId } = await params;
  const sittingId = (await searchParams).sitting ?? null;
  const bench = orNotFound(workbench(await pageContext(), courseId, sittingId));
  return (
    <BandsPage
      key={sittingId ?? ''}
      base={`/c/${courseId}`}
      bench={bench}
      commands={commandsIn({ courseId }, 'saveNumbers', 'saveSittingBands')}
    />
  );
}

import type { Metadata } from 'next';
import type { Band } from '@/core/gradebook/bands';
import { workbench } from '@/server/gradebook/workbench';
import { BandsPage } from '@/ui/gradebook/BandsPage';
import { orNotFound, pageContext } from '../../../../request';
import { setNumbers, setSittingBands } from '../actions';

export const metadata: Metadata = { title: 'Bands' };

type Props = { params: Promise<{ courseId: string }>; searchParams: Promise<{ sitting?: string }> };

export default async function Bands({ params, searchParams }: Props) {
  const { courseId } = await params;
  const sittingId = (await searchParams).sitting ?? null;
  const bench = orNotFound(workbench(await pageContext(), courseId, sittingId));
  const save = async (bands: Band[] | null) => {
    'use server';
    return sittingId === null
      ? setNumbers(courseId, { rules: { bands: bands ?? [] } })
      : setSittingBands(courseId, sittingId, bands);
  };
  return <BandsPage key={sittingId ?? ''} base={`/c/${courseId}`} bench={bench} save={save} />;
}

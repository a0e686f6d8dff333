import type { ReactNode } from 'react';
import { Leftovers } from '@/ui/attempt/Leftovers';
import { pageWidths } from '@/ui/kit/pageWidths';
import { StudentBar } from '@/ui/people/StudentBar';
import { pageContext } from '../request';

export default async function MyLayout({ children }: { children: ReactNode }) {
  const { actor } = await pageContext();
  return (
    <>
      <StudentBar name={actor.name} />
      <main className={`mx-auto px-4 py-6 ${pageWidths.reading}`}>{children}</main>
      <Leftovers />
    </>
  );
}

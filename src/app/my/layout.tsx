import type { ReactNode } from 'react';
import { Leftovers } from '@/ui/attempt/Leftovers';
import { StudentBar } from '@/ui/people/StudentBar';
import { pageContext } from '../request';

export default async function MyLayout({ children }: { children: ReactNode }) {
  const { actor } = await pageContext();
  return (
    <>
      <StudentBar name={actor.name} />
      <main className="mx-auto max-w-[760px] px-4 py-6">{children}</main>
      <Leftovers />
    </>
  );
}

import { headers } from 'next/headers';
import { lookAtDoor } from '@/server/round/comeIn';
import { pageWidths } from '@/ui/kit/pageWidths';
import { DoorPage } from '@/ui/round/DoorPage';
import { atDoor } from '../api/in/atDoor';

export const metadata = { title: 'Come in' };

/** Where one comes in to rounds: by a code that is typed, or that a camera has read. */
export default async function In({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { code } = await searchParams;
  const typed = typeof code === 'string' ? code : '';
  const at = await atDoor(await headers());
  const found = typed === '' ? null : lookAtDoor(at, typed);
  return (
    <main className={`mx-auto px-4 py-8 ${pageWidths.reading}`}>
      <DoorPage
        typed={typed}
        begun={found?.ok ? found.value : null}
        problem={found && !found.ok ? (found.problems[0]?.message ?? null) : null}
      />
    </main>
  );
}

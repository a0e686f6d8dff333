import { sittingOfLink } from '@/server/people/joinByLink';
import { Empty } from '@/ui/kit/Page';
import { JoinByLink } from '@/ui/people/JoinByLink';
import { openContext } from '../../request';

export const metadata = { title: 'Join an exam' };

export default async function Join({ params }: { params: Promise<{ secret: string }> }) {
  const { secret } = await params;
  const found = sittingOfLink(openContext().db, secret);
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      {found ? (
        <JoinByLink secret={secret} title={found.title} anonymous={found.anonymous} />
      ) : (
        <Empty title="This link leads nowhere">
          The exam may not be scheduled yet, or its link has changed. Ask whoever gave it to you.
        </Empty>
      )}
    </main>
  );
}

import { acceptInvitation, invitedPerson } from '@/server/people/invitations';
import { Empty } from '@/ui/kit/Page';
import { ChoosePassword } from '@/ui/people/ChoosePassword';
import { openContext } from '../../request';

export const metadata = { title: 'Your invitation' };

async function accept(token: string, password: string, how: 'have' | 'new') {
  'use server';
  const { db, now } = openContext();
  return acceptInvitation(db, token, String(password), how === 'have' ? 'have' : 'new', now);
}

export default async function InvitationPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { db, now } = openContext();
  const person = invitedPerson(db, token, now);
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      {person ? (
        <ChoosePassword person={person} accept={accept.bind(null, token)} />
      ) : (
        <Empty title="This invitation has been used or is too old">Ask the person who sent it for a new one.</Empty>
      )}
    </main>
  );
}

import { acceptInvitation, invitedPerson } from '@/server/people/invitations';
import { Empty } from '@/ui/kit/Page';
import { ChoosePassword } from '@/ui/people/ChoosePassword';
import { openContext } from '../../request';

export const metadata = { title: 'Your invitation' };

async function accept(token: string, password: string) {
  'use server';
  const { db, now } = openContext();
  return acceptInvitation(db, token, password, now);
}

export default async function InvitationPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { db, now } = openContext();
  const person = invitedPerson(db, token, now);
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      {person ? (
        <ChoosePassword name={person.name} email={person.email} accept={accept.bind(null, token)} />
      ) : (
        <Empty title="This invitation has been used or is too old">Ask the person who sent it for a new one.</Empty>
      )}
    </main>
  );
}

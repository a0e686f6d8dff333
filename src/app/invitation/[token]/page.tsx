import type { Metadata } from 'next';
import { database } from '@/db/client';
import { serverNow } from '@/server/house/installation';
import { acceptInvitation, invitedPerson } from '@/server/people/invitations';
import { Empty } from '@/ui/kit/Page';
import { ChoosePassword } from '@/ui/people/ChoosePassword';

export const metadata: Metadata = { title: 'Your invitation' };

async function accept(token: string, password: string) {
  'use server';
  return acceptInvitation(database(), token, password, serverNow());
}

export default async function InvitationPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const person = invitedPerson(database(), token, serverNow());
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

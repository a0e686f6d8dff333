import { commandsIn, orNotFound, page } from '@/app/pages';
import { ownAccount } from '@/server/people/account';
import { pageWidths } from '@/ui/kit/pageWidths';
import { AccountPage } from '@/ui/people/AccountPage';

export const metadata = { title: 'Your account' };

export default page((context) => (
  <main className={`mx-auto px-4 py-6 ${pageWidths.reading}`}>
    <AccountPage
      account={orNotFound(ownAccount(context))}
      now={context.now}
      commands={commandsIn({}, 'changePassword', 'chooseSignInName', 'endSession', 'endOtherSessions')}
    />
  </main>
));

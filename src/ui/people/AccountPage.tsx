'use client';
import { type FormEvent, useState } from 'react';
import { durationText, minute } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { OwnAccount, OwnSession } from '@/server/people/account';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextField } from '../kit/Field';
import { PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';
import { SignOut } from './SignOut';

type Props = {
  account: OwnAccount;
  now: number;
  commands: Commands<'changePassword' | 'chooseSignInName' | 'endSession' | 'endOtherSessions', never>;
};

/** Who one is, one's password, and where one is signed in. */
export function AccountPage({ account, now, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const others = account.sessions.filter((one) => !one.isThis).length;
  return (
    <>
      <PageTitle
        title={account.name}
        note={account.email ?? account.signInName ?? ''}
        back={{ href: '/', name: 'Your work' }}
      />
      <div className="space-y-5">
        {account.hasPassword && <ChooseName account={account} choose={commands.chooseSignInName} />}
        {account.hasPassword && <ChangePassword change={commands.changePassword} />}
        <Sheet label="Where you are signed in" className="px-5 py-4">
          <h2 className="text-xl">Where you are signed in</h2>
          <ul className="mt-2">
            {account.sessions.map((session) => (
              <li key={session.id} className="flex flex-wrap items-center gap-x-4 border-t border-line py-2">
                <span className="grow">
                  <span className="font-medium">{session.device}</span>
                  {session.isThis && ', this one'}
                  <span className="block text-sm text-ink-2">{usedSaid(session, now)}</span>
                </span>
                {session.isThis ? (
                  <SignOut className="text-prussian underline" />
                ) : (
                  <TextButton
                    disabled={busy}
                    aria-label={`Sign out ${session.device}`}
                    onClick={() => void perform(() => commands.endSession(session.id))}
                  >
                    Sign out
                  </TextButton>
                )}
              </li>
            ))}
          </ul>
          <Problems problems={problems} />
          {others > 0 && (
            <Button className="mt-2" disabled={busy} onClick={() => void perform(() => commands.endOtherSessions())}>
              Sign out everywhere else ({counted(others, 'place')})
            </Button>
          )}
        </Sheet>
      </div>
    </>
  );
}

/** What one signs in with: an email, and a name of one's own beside or instead of it. */
function ChooseName({ account, choose }: { account: OwnAccount; choose: Props['commands']['chooseSignInName'] }) {
  const { perform, problems, busy } = usePerform();
  const [name, setName] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void perform(
      () => choose(name),
      () => setName(''),
    );
  };
  const known = [account.email, account.signInName].filter(Boolean).join(' or as ');
  return (
    <Sheet label="What you sign in with" className="px-5 py-4">
      <h2 className="text-xl">What you sign in with</h2>
      <p className="mt-1 wrap-anywhere">You sign in as {known}.</p>
      <form onSubmit={submit} className="mt-2 flex max-w-sm flex-wrap items-end gap-3">
        <TextField
          label={account.signInName ? 'Another name than that' : 'A name besides'}
          hint={
            account.signInName
              ? `It takes the place of ${account.signInName}.`
              : 'Letters and digits, beginning with a letter.'
          }
          autoCapitalize="none"
          spellCheck={false}
          required
          value={name}
          onChange={(event) => setName(event.target.value)}
          problem={problemAt(problems, 'signInName')}
        />
        <Problems problems={problemsBesides(problems, ['signInName'])} />
        <Button type="submit" disabled={busy}>
          Choose this name
        </Button>
      </form>
    </Sheet>
  );
}

/** Since when and until when a session was used, as far as it tells. */
function usedSaid({ since, lastUsed, address }: OwnSession, now: number): string {
  const ago = (at: number) => (now - at < minute ? 'just now' : `${durationText(now - at)} ago`);
  return [`Signed in ${ago(since)}`, lastUsed > since ? `used ${ago(lastUsed)}` : '', address && `from ${address}`]
    .filter(Boolean)
    .join(', ');
}

function ChangePassword({ change }: { change: Props['commands']['changePassword'] }) {
  const { perform, problems, busy } = usePerform();
  const [entered, setEntered] = useState({ current: '', next: '' });
  const [changed, setChanged] = useState(false);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setChanged(false);
    void perform(
      () => change(entered.current, entered.next),
      () => {
        setEntered({ current: '', next: '' });
        setChanged(true);
      },
    );
  };
  return (
    <Sheet label="Change your password" className="px-5 py-4">
      <h2 className="text-xl">Change your password</h2>
      <form onSubmit={submit} className="mt-2 max-w-sm space-y-3">
        <TextField
          label="The password you have"
          type="password"
          autoComplete="current-password"
          required
          value={entered.current}
          onChange={(event) => setEntered({ ...entered, current: event.target.value })}
          problem={problemAt(problems, 'current')}
        />
        <TextField
          label="The new one"
          type="password"
          autoComplete="new-password"
          hint="At least 10 characters. You are signed out everywhere else."
          required
          value={entered.next}
          onChange={(event) => setEntered({ ...entered, next: event.target.value })}
          problem={problemAt(problems, 'password')}
        />
        <Problems problems={problemsBesides(problems, ['current', 'password'])} />
        <Button look="main" type="submit" disabled={busy}>
          Change the password
        </Button>
        {changed && <Done onUndo={null}>Your password is changed, and you are signed out everywhere else.</Done>}
      </form>
    </Sheet>
  );
}

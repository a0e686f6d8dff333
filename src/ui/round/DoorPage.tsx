'use client';
import { type FormEvent, useState } from 'react';
import { doorCodeShown } from '@/core/round/doorCode';
import type { CameIn, DoorView, OpenRound } from '@/server/round/comeIn';
import { Button, ButtonLink } from '../kit/Button';
import { TextField } from '../kit/Field';
import { TextButton } from '../kit/TextButton';

type Answered<T> = (T & { problems?: { message: string; field?: string }[] }) | null;

async function post<T>(address: string, body: unknown): Promise<{ ok: boolean; body: Answered<T> }> {
  const response = await fetch(address, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => null);
  return { ok: response?.ok ?? false, body: (await response?.json().catch(() => null)) as Answered<T> };
}

const unreachable = 'The server could not be reached. Try again.';

type Props = { typed: string; begun: DoorView | null; problem: string | null };

/** The door to rounds: a code, then whatever the round asks of whoever comes in. */
export function DoorPage({ typed, begun, problem: wrong }: Props) {
  const [code, setCode] = useState(typed);
  const [view, setView] = useState(begun);
  const [problem, setProblem] = useState(wrong);
  const [busy, setBusy] = useState(false);
  const look = async (event?: FormEvent) => {
    event?.preventDefault();
    setBusy(true);
    const answer = await post<DoorView>('/api/in/door', { code });
    setBusy(false);
    if (answer.ok && answer.body) {
      setProblem(null);
      setView(answer.body);
      return;
    }
    setProblem(answer.body?.problems?.[0]?.message ?? unreachable);
  };
  if (view)
    return (
      <Rounds
        view={view}
        onAgain={() => void look()}
        onOther={() => {
          setView(null);
          setCode('');
        }}
      />
    );
  return (
    <form onSubmit={(event) => void look(event)} className="mx-auto max-w-md border border-line bg-sheet px-6 py-6">
      <h1 className="text-2xl">Come in</h1>
      <p className="mb-3 text-ink-2">Type the door code of your course. It stands on the wall.</p>
      <TextField
        label="Door code"
        className="font-mono"
        autoFocus
        autoComplete="off"
        autoCapitalize="characters"
        spellCheck={false}
        maxLength={40}
        value={code}
        onChange={(event) => setCode(event.target.value)}
        problem={problem}
      />
      <Button type="submit" look="main" className="mt-4 w-full" busy={busy}>
        Go on
      </Button>
    </form>
  );
}

/** The rounds that are open behind a door; with one, what it asks. */
function Rounds({ view, onAgain, onOther }: { view: DoorView; onAgain: () => void; onOther: () => void }) {
  const only = view.rounds.length === 1 ? view.rounds[0] : undefined;
  const [chosen, setChosen] = useState<string | null>(null);
  const open = view.rounds.find((one) => one.sittingId === chosen) ?? only;
  return (
    <section className="mx-auto max-w-md border border-line bg-sheet px-6 py-6">
      <p className="text-ink-2">
        {view.courseName} · <span className="font-mono">{doorCodeShown(view.code)}</span>
      </p>
      {view.rounds.length === 0 ? (
        <>
          <h1 className="text-2xl">Nothing is open just now.</h1>
          <p className="mt-2">When your instructor begins a round, come in here.</p>
          <Button look="main" className="mt-4" onClick={onAgain}>
            Look again
          </Button>
        </>
      ) : open ? (
        <EnterRound key={open.sittingId} view={view} round={open} />
      ) : (
        <>
          <h1 className="text-2xl">Which one?</h1>
          <ul className="mt-3 space-y-2">
            {view.rounds.map((one) => (
              <li key={one.sittingId}>
                <Button className="w-full justify-start text-left" onClick={() => setChosen(one.sittingId)}>
                  {one.title}
                  <span className="text-ink-2">
                    {' '}
                    · {one.begun}
                    {one.isIn && ' · you are in'}
                  </span>
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-5 text-base">
        {chosen !== null && view.rounds.length > 1 && (
          <>
            <TextButton onClick={() => setChosen(null)}>Another round</TextButton>
            {' · '}
          </>
        )}
        <TextButton onClick={onOther}>Another code</TextButton>
      </p>
    </section>
  );
}

const asked = {
  name: { label: 'Your name', hint: 'As your instructor knows you.', autoComplete: 'name' },
  number: { label: 'Your student number', hint: '', autoComplete: 'off' },
};

function EnterRound({ view, round }: { view: DoorView; round: OpenRound }) {
  const [typed, setTyped] = useState('');
  const [wayBack, setWayBack] = useState('');
  const [isThere, setIsThere] = useState(false);
  const [problem, setProblem] = useState<{ field: string; message: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const field = round.asks === 'name' || round.asks === 'number' ? round.asks : null;
  const enter = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    const answer = await post<CameIn>('/api/in', {
      code: view.code,
      sittingId: round.sittingId,
      ...(field ? { [field]: typed } : {}),
      ...(isThere && wayBack ? { wayBack } : {}),
    });
    if (answer.ok && answer.body) {
      location.assign(answer.body.pace === 'led' ? `/in/${round.sittingId}` : `/take/${answer.body.attemptId}`);
      return;
    }
    setBusy(false);
    const [first] = answer.body?.problems ?? [];
    const message = first?.message ?? unreachable;
    if (message.includes('four digits')) setIsThere(true);
    setProblem({ field: first?.field ?? '', message });
  };
  if (round.asks === 'sign-in')
    return (
      <>
        <h1 className="text-2xl">{round.title}</h1>
        <p className="mt-2 mb-4">This round is for people who are signed in.</p>
        <ButtonLink look="main" href={`/sign-in?door=${view.code}`}>
          Sign in
        </ButtonLink>
      </>
    );
  return (
    <form onSubmit={(event) => void enter(event)} className="space-y-3">
      <h1 className="text-2xl">{round.title}</h1>
      {round.isIn && <p>You are in this round already.</p>}
      {!round.isIn && round.asks === null && view.signedInAs && <p>You come in as {view.signedInAs}.</p>}
      {round.asks === 'nameless' && (
        <p>
          You come in without a name.
          {view.signedInAs && ` In this browser ${view.signedInAs} is signed in; that ends when you come in.`}
        </p>
      )}
      {field && (
        <TextField
          {...asked[field]}
          autoFocus
          maxLength={500}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          problem={problem?.field === field ? problem.message : null}
        />
      )}
      {isThere && (
        <TextField
          label="The four digits of your other device"
          hint="Leave this empty if you are somebody else, and add something to your name."
          inputMode="numeric"
          autoComplete="off"
          maxLength={10}
          value={wayBack}
          onChange={(event) => setWayBack(event.target.value)}
          problem={problem?.field === 'wayBack' ? problem.message : null}
        />
      )}
      {problem && problem.field !== field && problem.field !== 'wayBack' && (
        <p role="alert" className="text-brick">
          {problem.message}
        </p>
      )}
      <Button type="submit" look="main" className="w-full" busy={busy}>
        {round.isIn ? 'Go on where I was' : 'Come in'}
      </Button>
    </form>
  );
}

'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { BankElsewhere } from '@/server/people/courseBanks';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextField } from '../kit/Field';
import { Find, fewEnoughToSee, holds } from '../kit/Find';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';

type BankRow = { id: string; name: string; questions: number };
type BankCommands = Commands<'beginBank' | 'takeUpBank' | 'renameBank' | 'giveUpBank' | 'undoChange', 'courseId'>;

type Props = { base: string; banks: BankRow[]; elsewhere: BankElsewhere[]; commands: BankCommands };

/** The banks a course uses: another is begun, one of another course is taken up, one is given up. */
export function BanksPage({ base, banks, elsewhere, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [done, setDone] = useState<{ auditId: number; text: string } | null>(null);
  const [find, setFind] = useState('');
  const found = elsewhere.filter((one) => holds(find, one.name, ...one.courses));
  return (
    <PageFrame width="sheet">
      <PageTitle title="Banks of this course" note="Exams draw from all of them. A bank may serve many courses." />
      {done && (
        <Done
          className="mb-3 border border-line"
          onUndo={() =>
            void perform(
              () => commands.undoChange(done.auditId),
              () => setDone(null),
            )
          }
        >
          {done.text}
        </Done>
      )}
      <Problems problems={problems} className="mb-3" />
      <Sheet label="Banks of this course">
        <ul>
          {banks.map((bank) => (
            <BankLine
              key={bank.id}
              href={`${base}/banks/${bank.id}`}
              bank={bank}
              busy={busy}
              commands={commands}
              onLeave={() =>
                void perform(
                  () => commands.giveUpBank(bank.id),
                  ({ auditId }) => setDone({ auditId, text: `${bank.name} is no longer used by this course.` }),
                )
              }
            />
          ))}
          {banks.length === 0 && (
            <li className="px-5 py-4 text-ink-2">None yet: begin one, or use one of another course.</li>
          )}
        </ul>
        <BeginBank base={base} commands={commands} />
      </Sheet>
      <Sheet label="Banks of your other courses" className="mt-4">
        <h2 className="px-5 pt-4 text-lg">Use a bank of another course</h2>
        <p className="px-5 pb-3 text-ink-2">
          Both courses then use the same questions; what is changed in one is changed in the other.
        </p>
        {elsewhere.length > fewEnoughToSee && (
          <Find label="Find a bank" placeholder="Find a bank or course" value={find} onChange={setFind} />
        )}
        <ul className="border-t border-line">
          {found.map((bank) => (
            <li
              key={bank.id}
              className="flex flex-wrap items-center gap-3 border-b border-line px-5 py-2 last:border-b-0"
            >
              <span className="min-w-48 flex-1">
                {bank.name}
                <span className="block text-sm text-ink-2">
                  {counted(bank.questions, 'question')} · {bank.courses.join('; ')}
                </span>
              </span>
              <Button
                disabled={busy}
                aria-label={`Use it here: ${bank.name}`}
                onClick={() =>
                  void perform(
                    () => commands.takeUpBank(bank.id),
                    ({ auditId }) => setDone({ auditId, text: `${bank.name} is used by this course now.` }),
                  )
                }
              >
                Use it here
              </Button>
            </li>
          ))}
          {found.length === 0 && (
            <li className="px-5 py-3 text-ink-2">
              {elsewhere.length === 0 ? 'You teach no other course with a bank of its own.' : 'No bank is called so.'}
            </li>
          )}
        </ul>
      </Sheet>
    </PageFrame>
  );
}

type LineProps = { href: string; bank: BankRow; busy: boolean; commands: BankCommands; onLeave: () => void };

function BankLine({ href, bank, busy, commands, onLeave }: LineProps) {
  const { perform, problems } = usePerform();
  const [name, setName] = useState<string | null>(null);
  if (name !== null)
    return (
      <li className="border-b border-line px-5 py-2">
        <form
          className="flex flex-wrap items-start gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void perform(
              () => commands.renameBank(bank.id, { name }),
              () => setName(null),
            );
          }}
        >
          <TextField
            quiet
            autoFocus
            label={`New name of ${bank.name}`}
            className="min-w-56 flex-1"
            value={name}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setName(null)}
            problem={problemAt(problems, 'name')}
          />
          <Button type="submit" look="main">
            Rename
          </Button>
          <Button onClick={() => setName(null)}>Leave it</Button>
          <Problems problems={problemsBesides(problems, ['name'])} className="w-full" />
        </form>
      </li>
    );
  return (
    <li className="flex flex-wrap items-center gap-3 border-b border-line px-5 py-2">
      <span className="min-w-48 flex-1">
        <TextLink href={href} className="font-medium">
          {bank.name}
        </TextLink>
        <span className="block text-sm text-ink-2">{counted(bank.questions, 'question')}</span>
      </span>
      <Button look="quiet" aria-label={`Rename ${bank.name}`} onClick={() => setName(bank.name)}>
        Rename
      </Button>
      <Button look="quiet" disabled={busy} aria-label={`Stop using ${bank.name}`} onClick={onLeave}>
        Stop using
      </Button>
    </li>
  );
}

function BeginBank({ base, commands }: Pick<Props, 'base' | 'commands'>) {
  const { perform, problems, busy } = usePerform();
  const { value, change, done } = useWritten('bank', (name) => (name.trim() ? `A bank: ${name}` : null), '');
  const [begun, setBegun] = useState<{ id: string; name: string } | null>(null);
  return (
    <form
      className="px-5 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        void perform(
          () => commands.beginBank({ name: value }),
          ({ bankId }) => {
            setBegun({ id: bankId, name: value.trim() });
            done();
          },
        );
      }}
    >
      <div className="flex flex-wrap items-start gap-2">
        <TextField
          label="Begin another bank"
          placeholder="Its name"
          className="min-w-56 flex-1"
          value={value}
          onChange={(event) => change(event.target.value)}
          problem={problemAt(problems, 'name')}
        />
        <Button type="submit" className="mt-6" disabled={busy}>
          Begin it
        </Button>
      </div>
      <Problems problems={problemsBesides(problems, ['name'])} />
      <p role="status" className="mt-1 text-sm">
        {begun && (
          <>
            {begun.name} is begun. <TextLink href={`${base}/banks/${begun.id}`}>Write its first question</TextLink>
          </>
        )}
      </p>
    </form>
  );
}

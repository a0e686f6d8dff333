'use client';
import { type FormEvent, type ReactNode, useState } from 'react';
import { isEmptyRich } from '@/core/base/rich';
import { momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { LookPage as Look, Remark } from '@/server/exam/looks';
import { useOnce } from '../keep/useOnce';
import { useWritten } from '../keep/useWritten';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { SelectField, TextArea } from '../kit/Field';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RichText } from '../kit/RichText';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';
import { Phase } from '../sitting/phase';
import { LookSaid } from './LooksSaid';

type LookCommands = Commands<
  'askForLook' | 'withdrawLook' | 'remark' | 'settleRemark' | 'signOff',
  'courseId' | 'examId'
>;

type Props = {
  base: string;
  examId: string;
  look: Look;
  commands: LookCommands;
};

/** An exam to be looked through by a colleague: all of it in words, remarks beside what they are about, and the sign-off. */
export function LookPage({ base, examId, look, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const once = useOnce();
  const [about, setAbout] = useState<string | null | undefined>(undefined);
  const exam = `${base}/exams/${examId}`;
  const { said, remarks, mine, composes, timeZone } = look;
  const open = remarks.filter((one) => !one.settled).length;
  const beside = (aboutId: string | null, name: string, what?: ReactNode) => (
    <Remarks
      what={what}
      name={name}
      object={aboutId ?? 'exam'}
      remarks={remarks.filter((one) => one.aboutId === aboutId)}
      timeZone={timeZone}
      maySettle={(one) => composes || one.own}
      writing={about === aboutId}
      busy={busy}
      onWrite={() => setAbout(aboutId)}
      onCancel={() => setAbout(undefined)}
      onSend={(text, sent) =>
        void perform(
          () => once(commands.remark, { aboutId, text }),
          () => {
            sent();
            setAbout(undefined);
          },
        )
      }
      onSettle={(one) => void perform(() => commands.settleRemark(one.id, !one.settled))}
    />
  );
  const gone = remarks.filter(
    (one) =>
      one.aboutId !== null &&
      !said.parts.some((part) => part.id === one.aboutId || part.lines.some((line) => line.id === one.aboutId)) &&
      !look.sittings.some((row) => row.id === one.aboutId),
  );
  return (
    <PageFrame>
      <PageTitle
        title={`A look at ${look.title}`}
        back={composes ? { href: exam, name: look.title } : { href: base, name: 'Desk' }}
        note={`Revision ${look.revision} · ${remarks.length === 0 ? 'no remarks yet' : `${open} of ${counted(remarks.length, 'remark')} open`}`}
      >
        <ButtonLink href={`/trial${base.slice(2)}/${examId}`}>Try it</ButtonLink>
        <ButtonLink href={`${exam}/sample`}>Sample papers with key</ButtonLink>
        {mine && (
          <Button
            look={mine.signedAt !== null && !mine.changedSince ? 'plain' : 'main'}
            disabled={busy}
            onClick={() => void perform(() => commands.signOff(mine.signedAt === null || mine.changedSince))}
          >
            {mine.signedAt === null
              ? 'Sign it off'
              : mine.changedSince
                ? 'Sign it off as it is now'
                : 'Take the sign-off back'}
          </Button>
        )}
      </PageTitle>
      <Problems problems={problems} className="mb-3" />
      {mine?.note && (
        <p className="mb-4 max-w-prose border-l-2 border-saffron bg-saffron-wash px-4 py-2 whitespace-pre-wrap">
          {mine.note}
        </p>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_320px]">
        <div className="min-w-0 space-y-4">
          <Sheet label="The exam" className="px-5 py-3">
            {said.whole.map((text) => (
              <p key={text}>{text}</p>
            ))}
            {!isEmptyRich(look.instructions) && (
              <details className="mt-1">
                <summary className="text-sm font-medium text-prussian">The instructions</summary>
                <RichText rich={look.instructions} className="mt-1" />
              </details>
            )}
            {look.problems.map((text) => (
              <p key={text} className="text-brick">
                {text}
              </p>
            ))}
            {beside(null, 'the exam')}
          </Sheet>
          {said.parts.map((part) => (
            <Sheet key={part.id} label={part.title} className="px-5 py-3">
              <h2 className="text-lg">{part.title}</h2>
              {beside(part.id, part.title, <span className="text-ink-2">{part.said}</span>)}
              <ol>
                {part.lines.map((line) => (
                  <li key={line.id} className="border-t border-line py-1.5">
                    {beside(
                      line.id,
                      `line ${line.number}`,
                      <>
                        <span className="mr-3 text-ink-2 tabular-nums">{line.number}</span>
                        {line.said.charAt(0).toUpperCase() + line.said.slice(1)}
                      </>,
                    )}
                  </li>
                ))}
              </ol>
            </Sheet>
          ))}
          {look.sittings.map((row) => (
            <Sheet key={row.id} label={row.title} className="px-5 py-3">
              <h2 className="text-lg">
                {row.title}{' '}
                <span className="font-sans text-sm font-normal">
                  sitting, <Phase phase={row.phase} />
                </span>
              </h2>
              {row.said.map((text) => (
                <p key={text}>{text}</p>
              ))}
              {beside(row.id, row.title)}
            </Sheet>
          ))}
          {gone.length > 0 && (
            <Sheet label="About what is gone" className="px-5 py-3">
              <h2 className="text-lg">About lines that are gone</h2>
              {[...new Set(gone.map((one) => one.aboutId))].map((id) => (
                <div key={id}>{beside(id, 'what is gone')}</div>
              ))}
            </Sheet>
          )}
        </div>
        <aside aria-label="Who looks at it" className="space-y-4 lg:sticky lg:top-3">
          <Sheet className="px-4 py-3">
            <h2 className="text-lg">Who looks at it</h2>
            {look.looks.length === 0 && <p className="text-ink-2">Nobody has been asked yet.</p>}
            <ul className="mt-1 space-y-2">
              {look.looks.map((one) => (
                <li key={one.id}>
                  <span className="font-medium">{one.colleague}</span>
                  <span className="block text-sm">
                    <LookSaid look={one} timeZone={timeZone} />
                  </span>
                  {composes && (
                    <TextButton
                      disabled={busy}
                      className="text-sm"
                      onClick={() => void perform(() => commands.withdrawLook(one.id))}
                    >
                      Ask no longer<span className="sr-only"> {one.colleague}</span>
                    </TextButton>
                  )}
                </li>
              ))}
            </ul>
            {composes && <Ask colleagues={look.colleagues} ask={commands.askForLook} />}
          </Sheet>
        </aside>
      </div>
    </PageFrame>
  );
}

function Ask({ colleagues, ask }: { colleagues: Props['look']['colleagues']; ask: LookCommands['askForLook'] }) {
  const { perform, problems, busy } = usePerform();
  const once = useOnce();
  const { value, change, done } = useWritten(
    'ask-for-look',
    ({ note }) => (note.trim() ? 'What a colleague is asked to look at' : null),
    { colleagueId: '', note: '' },
  );
  const { colleagueId, note } = value;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void perform(
      () => once(ask, { colleagueId, note }),
      () => done(),
    );
  };
  if (colleagues.length === 0)
    return (
      <p className="mt-3 border-t border-line pt-3 text-sm text-ink-2">
        Everyone who could look has been asked. A colleague from elsewhere can be added under People, as a guest.
      </p>
    );
  return (
    <form onSubmit={submit} className="mt-3 space-y-2 border-t border-line pt-3">
      <SelectField
        label="Ask a colleague"
        value={colleagueId}
        onChange={(event) => change({ colleagueId: event.target.value, note })}
      >
        <option value="">Choose …</option>
        {colleagues.map((one) => (
          <option key={one.userId} value={one.userId}>
            {one.name}, {one.role}
          </option>
        ))}
      </SelectField>
      <TextArea
        label="What to look at"
        rows={3}
        value={note}
        onChange={(event) => change({ colleagueId, note: event.target.value })}
        hint="They see the questions with their key."
      />
      <Problems problems={problems} />
      <Button type="submit" look="main" disabled={busy}>
        Ask
      </Button>
    </form>
  );
}

type RemarksProps = {
  /** What it is about, where that stands in the same row. */
  what: ReactNode;
  name: string;
  /** Names what is typed about it, while it is not sent. */
  object: string;
  remarks: Remark[];
  timeZone: string;
  maySettle: (remark: Remark) => boolean;
  writing: boolean;
  busy: boolean;
  onWrite: () => void;
  onCancel: () => void;
  onSend: (text: string, sent: () => void) => void;
  onSettle: (remark: Remark) => void;
};

/** The remarks on one thing, the settled ones folded, and room for another. */
function Remarks({
  what,
  name,
  object,
  remarks,
  timeZone,
  maySettle,
  writing,
  busy,
  onWrite,
  onCancel,
  onSend,
  onSettle,
}: RemarksProps): ReactNode {
  const typed = useWritten(`remark/${object}`, (text) => (text.trim() ? `A remark on ${name}` : null), '');
  const isWriting = writing || typed.isUnfinished;
  const settled = remarks.filter((one) => one.settled);
  const row = (one: Remark) => (
    <li key={one.id} className={`border-l-2 pl-3 ${one.settled ? 'border-line text-ink-2' : 'border-plum'}`}>
      <p className="whitespace-pre-wrap">{one.text}</p>
      <p className="text-sm text-ink-2">
        {one.author}, {momentText(one.at, timeZone)}
        {maySettle(one) && (
          <TextButton disabled={busy} className="ml-2" onClick={() => onSettle(one)}>
            {one.settled ? 'Open it again' : 'Settled'}
          </TextButton>
        )}
      </p>
    </li>
  );
  return (
    <div className={what ? '' : 'mt-1'}>
      <div className="flex items-baseline gap-3">
        <span className="min-w-0 flex-1">{what}</span>
        {!isWriting && (
          <TextButton className="shrink-0 text-sm decoration-dotted" onClick={onWrite}>
            Remark<span className="sr-only"> on {name}</span>
          </TextButton>
        )}
      </div>
      <ul className="space-y-1">{remarks.filter((one) => !one.settled).map(row)}</ul>
      {settled.length > 0 && (
        <details>
          <summary className="text-sm text-ink-2">{settled.length} settled</summary>
          <ul className="space-y-1">{settled.map(row)}</ul>
        </details>
      )}
      {isWriting && (
        <form
          className="mt-1 space-y-2"
          onSubmit={(event) => {
            event.preventDefault();
            onSend(typed.value, typed.done);
          }}
        >
          <TextArea
            label={`Remark on ${name}`}
            autoFocus
            rows={2}
            value={typed.value}
            onChange={(event) => typed.change(event.target.value)}
          />
          <div className="flex gap-2">
            <Button
              type="submit"
              look="main"
              disabled={busy}
              whyNot={typed.value.trim() ? null : 'Write what you remark.'}
            >
              Put it there
            </Button>
            <Button
              onClick={() => {
                typed.done();
                onCancel();
              }}
            >
              {typed.isUnfinished ? 'Give it up' : 'Cancel'}
            </Button>
          </div>
        </form>
      )}
    </div>
  );
}

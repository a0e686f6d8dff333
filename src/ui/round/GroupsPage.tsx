'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { Grouping, GroupKind } from '@/core/round/groups';
import type { Groups, ShownGroup } from '@/server/round/after';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { Done } from '../kit/Done';
import { TextArea, TextField } from '../kit/Field';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { PickPiece } from '../kit/PickPiece';
import { Problems, problemAt } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';

export type Asked = { size: number; by: Grouping; kind: GroupKind };

type Props = {
  here: string;
  back: string;
  asked: Asked;
  groups: Groups;
  commands: Commands<'groupToSection' | 'writeToStudents', 'courseId' | 'roundId' | 'sittingId'>;
};

const sizes = ['2', '3', '4', '5', '6', '8', '10', '12'] as const;

/** Who needs another lesson: groups by result or by what was missed, to write to, print, or make a section of. */
export function GroupsPage({ here, back, asked, groups, commands }: Props) {
  const router = useRouter();
  const set = (change: Partial<Asked>) => {
    const { size, by, kind } = { ...asked, ...change };
    router.replace(`${here}?size=${size}&by=${by}&kind=${kind}`);
  };
  const [open, setOpen] = useState<{ what: 'section' | 'write'; number: number; group: ShownGroup } | null>(null);
  const [done, setDone] = useState('');
  const wordings = new Map(groups.objectives.map((one) => [one.code, one.wording]));
  return (
    <PageFrame width="sheet">
      <PageTitle title="Who needs another lesson" back={{ href: back, name: 'The round' }}>
        <Button onClick={() => window.print()}>Print</Button>
      </PageTitle>
      <p className="mb-4 print:hidden">
        Groups of{' '}
        <PickPiece
          label="Size of a group"
          value={String(asked.size) as (typeof sizes)[number]}
          options={sizes.map((value) => ({ value, says: value }))}
          onPick={(size) => set({ size: Number(size) })}
        />
        , by{' '}
        <PickPiece
          label="Grouped by"
          value={asked.by}
          options={[
            { value: 'result', says: 'result' },
            { value: 'objective', says: 'the objective they missed most' },
          ]}
          onPick={(by) => set({ by })}
        />
        ,{' '}
        <PickPiece
          label="Alike or mixed"
          value={asked.kind}
          options={[
            { value: 'alike', says: 'alike', means: 'alike: those who need the same stand together' },
            { value: 'mixed', says: 'mixed', means: 'mixed: each group has some of the weakest and of the strongest' },
          ]}
          onPick={(kind) => set({ kind })}
        />
        .
      </p>
      {done && (
        <Done className="mb-3" onUndo={null}>
          {done}
        </Done>
      )}
      {groups.groups.length === 0 ? (
        <Empty title="Nobody to group">Groups are made of those whose answers a key judges.</Empty>
      ) : (
        <ol className="grid gap-4 sm:grid-cols-2">
          {groups.groups.map((group, i) => (
            <li key={group.members[0]?.userId ?? i}>
              <Sheet label={`Group ${i + 1}`} className="h-full px-4 py-3 break-inside-avoid">
                <h2 className="text-lg">
                  Group {i + 1}
                  {group.objective !== null && (
                    <span className="font-sans text-base text-ink-2">
                      {' '}
                      · missed {group.objective} {wordings.get(group.objective)}
                    </span>
                  )}
                </h2>
                <ul>
                  {group.members.map((one) => (
                    <li key={one.userId} className="flex justify-between gap-3">
                      <span className="min-w-0 break-words">{one.name}</span>
                      <span className="text-ink-2 tabular-nums">{Math.round(one.percent)} %</span>
                    </li>
                  ))}
                </ul>
                <p className="mt-2 flex gap-4 text-base print:hidden">
                  <TextButton onClick={() => setOpen({ what: 'write', number: i + 1, group })}>
                    Write to them<span className="sr-only">, group {i + 1}</span>
                  </TextButton>
                  <TextButton onClick={() => setOpen({ what: 'section', number: i + 1, group })}>
                    Make a section<span className="sr-only"> of group {i + 1}</span>
                  </TextButton>
                </p>
              </Sheet>
            </li>
          ))}
        </ol>
      )}
      {open?.what === 'section' && (
        <MakeSection
          number={open.number}
          group={open.group}
          commands={commands}
          onDone={(said) => {
            setDone(said);
            setOpen(null);
          }}
          onClose={() => setOpen(null)}
        />
      )}
      {open?.what === 'write' && (
        <Write
          group={open.group}
          commands={commands}
          onDone={(said) => {
            setDone(said);
            setOpen(null);
          }}
          onClose={() => setOpen(null)}
        />
      )}
    </PageFrame>
  );
}

type Doing = {
  group: ShownGroup;
  commands: Props['commands'];
  onDone: (said: string) => void;
  onClose: () => void;
};

function MakeSection({ number, group, commands, onDone, onClose }: Doing & { number: number }) {
  const { perform, problems, busy } = usePerform();
  const [name, setName] = useState(`Group ${number}`);
  return (
    <Decision
      title={`Make a section of group ${number}`}
      act="Make it"
      busy={busy}
      onAct={() =>
        void perform(
          () => commands.groupToSection({ name, userIds: group.members.map((one) => one.userId) }),
          ({ moved }) => onDone(`${counted(moved, 'person is', 'people are')} in the section ${name} now.`),
        )
      }
      onClose={onClose}
    >
      <p>Those of them who are on the roster leave the section they were in.</p>
      <TextField
        label="Name of the section"
        value={name}
        maxLength={60}
        onChange={(event) => setName(event.target.value)}
        problem={problemAt(problems, 'name')}
      />
      <Problems problems={problems.filter((one) => one.field !== 'name')} />
    </Decision>
  );
}

function Write({ group, commands, onDone, onClose }: Doing) {
  const { perform, problems, busy } = usePerform();
  const [subject, setSubject] = useState('Another lesson');
  const [text, setText] = useState('');
  return (
    <Decision
      title={`Write to ${counted(group.members.length, 'person', 'people')}`}
      act="Send"
      busy={busy}
      onAct={() =>
        void perform(
          () => commands.writeToStudents({ userIds: group.members.map((one) => one.userId), subject, text }),
          () => onDone('The message is sent to those of them who have an email.'),
        )
      }
      onClose={onClose}
    >
      <TextField label="Subject" value={subject} onChange={(event) => setSubject(event.target.value)} />
      <TextArea label="Message" rows={5} value={text} onChange={(event) => setText(event.target.value)} />
      <Problems problems={problems} />
    </Decision>
  );
}

'use client';
import { useState } from 'react';
import { counted, listed } from '@/core/base/words';
import type { Slip } from '@/server/people/invitations';
import { Button } from '../kit/Button';
import { Done } from '../kit/Done';
import { Find, holds } from '../kit/Find';
import { PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RowTable } from '../kit/RowTable';
import { TextLink } from '../kit/TextLink';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { AddList } from './AddList';
import { AddPerson } from './AddPerson';
import type { PeopleCommands, Person } from './model';
import { PersonRow } from './PersonRow';
import { Slips } from './Slips';

type Props = {
  base: string;
  /** Its name, as it stands on what is handed out. */
  course: string;
  people: Person[];
  sections: { id: string; name: string; students: number }[];
  commands: PeopleCommands;
};

const columns = [
  { key: 'name', name: 'Name', share: 21 },
  { key: 'role', name: 'Role', share: 11 },
  { key: 'section', name: 'Section', share: 10 },
  { key: 'number', name: 'Student number', share: 10 },
  { key: 'email', name: 'Email', share: 24 },
  { key: 'extra', name: 'Extra time', right: true, share: 7 },
  { key: 'actions', name: 'Actions', quiet: true, share: 17 },
];

/** The roster: everybody in the course, with the ways to add people. */
export function PeoplePage({ base, course, people, sections, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [find, setFind] = useState('');
  const [adding, setAdding] = useState<'no' | 'one' | 'list'>('no');
  /** What was just done: the last thing only, so that there is one Undo. */
  const [done, setDone] = useState<{ said: string; auditId?: number } | null>(null);
  const [slips, setSlips] = useState<{ slips: Slip[]; refused: string[] } | null>(null);
  const [onlyMissing, setOnlyMissing] = useState(false);
  const missing = people.filter((person) => !person.cameIn);
  const invite = (whom: readonly Person[]) =>
    void perform(() => commands.inviteAgain(whom.map((one) => one.membershipId)), setSlips);
  const students = people.filter((person) => person.role === 'student').length;
  const shown = (onlyMissing ? missing : people).filter((person) =>
    holds(find, person.name, person.email, person.studentNumber, person.section, person.role),
  );
  return (
    <div className="min-w-0">
      <PageTitle
        title="People"
        note={[
          counted(students, 'student'),
          ...(sections.length > 0
            ? [
                listed(
                  sections.map(({ name, students: own }) => `${name} ${own}`),
                  8,
                  ' · ',
                ),
              ]
            : []),
          counted(people.length - students, 'other'),
        ].join(' · ')}
      >
        <TextLink href={`${base}/course`} className="mr-2">
          Course and term
        </TextLink>
        <TextLink href={`${base}/next-term`} className="mr-2">
          Next term
        </TextLink>
        <TextLink href={`${base}/outbox`} className="mr-2">
          Messages sent
        </TextLink>
        <Button onClick={() => setAdding(adding === 'one' ? 'no' : 'one')} aria-expanded={adding === 'one'}>
          Add one
        </Button>
        <Button
          look="main"
          onClick={() => setAdding(adding === 'list' ? 'no' : 'list')}
          aria-expanded={adding === 'list'}
        >
          Add a class list
        </Button>
      </PageTitle>
      {adding === 'one' && (
        <AddPerson
          sections={sections}
          add={commands.addPerson}
          onDone={(name) => setDone({ said: `${name} has been added.` })}
        />
      )}
      {adding === 'list' && (
        <AddList
          commands={commands}
          onDone={(said, auditId) => {
            setDone({ said, auditId });
            setAdding('no');
          }}
        />
      )}
      {done && (
        <Done
          className="mb-3"
          onUndo={
            done.auditId === undefined
              ? null
              : () =>
                  void perform(
                    () => commands.undoChange(done.auditId ?? 0),
                    () => setDone(null),
                  )
          }
        >
          {done.said}
        </Done>
      )}
      <Problems problems={problems} className="mb-3" />
      {slips && <Slips {...slips} course={course} onClose={() => setSlips(null)} />}
      <Sheet label="Everybody in the course">
        <Find
          label="Find people"
          placeholder="Find by name, number, email, section"
          value={find}
          onChange={setFind}
          said={
            find.trim() || onlyMissing
              ? `${shown.length} of ${people.length}`
              : counted(people.length, 'person', 'people')
          }
        >
          {missing.length > 0 && (
            <>
              <Tick on={onlyMissing} onChange={setOnlyMissing}>
                {counted(missing.length, 'has', 'have')} not come in yet
              </Tick>
              <Button disabled={busy} onClick={() => invite(missing)}>
                Addresses to hand out
              </Button>
            </>
          )}
        </Find>
        <RowTable label="People" columns={columns} rows={shown}>
          {(person) => (
            <PersonRow
              key={person.membershipId}
              person={person}
              sections={sections}
              busy={busy}
              onInvite={() => invite([person])}
              onChange={(input) => perform(() => commands.changePerson(person.membershipId, input))}
              onRemove={() =>
                void perform(
                  () => commands.removePerson(person.membershipId),
                  ({ auditId }) =>
                    setDone({
                      auditId,
                      said: `${person.name} is no longer in this course. What they have written is kept.`,
                    }),
                )
              }
            />
          )}
        </RowTable>
      </Sheet>
    </div>
  );
}

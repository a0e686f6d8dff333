'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { AddList } from './AddList';
import { AddPerson } from './AddPerson';
import type { PeopleCommands, Person } from './model';
import { PersonRow } from './PersonRow';

type Props = {
  base: string;
  people: Person[];
  sections: { id: string; name: string; students: number }[];
  commands: PeopleCommands;
};

/** The roster: everybody in the course, with the ways to add people. */
export function PeoplePage({ base, people, sections, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [find, setFind] = useState('');
  const [adding, setAdding] = useState<'no' | 'one' | 'list'>('no');
  const [removed, setRemoved] = useState<{ auditId: number; name: string } | null>(null);
  const [added, setAdded] = useState('');
  const students = people.filter((person) => person.role === 'student').length;
  const wanted = find.trim().toLowerCase();
  const shown = people.filter((person) =>
    [person.name, person.email, person.studentNumber, person.section, person.role].some((text) =>
      text?.toLowerCase().includes(wanted),
    ),
  );
  return (
    <div className="min-w-0">
      <PageTitle
        title="People"
        note={`${students} students${sections.map((section) => ` · ${section.name} ${section.students}`).join('')} · ${people.length - students} others`}
      >
        <Link href={`${base}/course`} className="mr-2 text-prussian underline">
          Course and term
        </Link>
        <Link href={`${base}/next-term`} className="mr-2 text-prussian underline">
          Next term
        </Link>
        <Link href={`${base}/outbox`} className="mr-2 text-prussian underline">
          Messages sent
        </Link>
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
        <AddPerson sections={sections} add={commands.addOne} onDone={(name) => setAdded(`${name} has been added.`)} />
      )}
      {adding === 'list' && (
        <AddList
          commands={commands}
          onDone={(text) => {
            setAdded(text);
            setAdding('no');
          }}
        />
      )}
      {added && (
        <p role="status" className="mb-3 text-pine">
          {added}
        </p>
      )}
      <Problems problems={problems} className="mb-3" />
      {removed && (
        <p role="status" className="mb-3 flex gap-3 bg-prussian-wash px-3 py-2">
          {removed.name} is no longer in this course. What they have written is kept.
          <button
            type="button"
            className="text-prussian underline"
            onClick={() =>
              void perform(
                () => commands.undo(removed.auditId),
                () => setRemoved(null),
              )
            }
          >
            Undo
          </button>
        </p>
      )}
      <Sheet label="Everybody in the course">
        <div className="flex items-center gap-3 border-b border-line p-2">
          <input
            type="search"
            aria-label="Find people"
            placeholder="Find by name, number, email, section"
            value={find}
            onChange={(event) => setFind(event.target.value)}
            className={`${inputShape} max-w-sm`}
          />
          <span className="text-sm text-ink-2">
            {wanted ? `${shown.length} of ${people.length}` : `${people.length} people`}
          </span>
        </div>
        <div className="overflow-x-auto">
          <table className="w-full">
            <thead>
              <tr className="border-b border-line text-left text-sm text-ink-2 [&>th]:px-3 [&>th]:py-1.5 [&>th]:font-medium">
                <th>Name</th>
                <th>Part</th>
                <th>Section</th>
                <th>Student number</th>
                <th>Email</th>
                <th className="text-right">Extra time</th>
                <th>
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {shown.map((person) => (
                <PersonRow
                  key={person.membershipId}
                  person={person}
                  sections={sections}
                  busy={busy}
                  onChange={(input) => perform(() => commands.changeOne(person.membershipId, input))}
                  onRemove={() =>
                    void perform(
                      () => commands.removeOne(person.membershipId),
                      ({ auditId }) => setRemoved({ auditId, name: person.name }),
                    )
                  }
                />
              ))}
            </tbody>
          </table>
        </div>
      </Sheet>
    </div>
  );
}

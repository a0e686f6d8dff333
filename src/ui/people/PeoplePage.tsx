'use client';
import { useState } from 'react';
import { counted, listed } from '@/core/base/words';
import type { Slip } from '@/server/people/invitations';
import type { People } from '@/server/people/roster';
import { CellsSaid, CellsUnsent } from '../cells/CellsSaid';
import { cellKeys } from '../cells/cellKeys';
import { PastedCells } from '../cells/PastedCells';
import { Button } from '../kit/Button';
import { Done } from '../kit/Done';
import { SelectField } from '../kit/Field';
import { Find, holds } from '../kit/Find';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RowTable } from '../kit/RowTable';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { AddList } from './AddList';
import { AddPerson } from './AddPerson';
import { FormerPeople } from './FormerPeople';
import type { PeopleCommands, Person } from './model';
import { NameOrderField } from './NameOrderField';
import { asked, Offers } from './Offers';
import { knownSections, PersonRow } from './PersonRow';
import { Slips } from './Slips';
import { usePeopleCells } from './usePeopleCells';

type Props = {
  base: string;
  /** Its name, as it stands on what is handed out. */
  course: string;
  timeZone: string;
  all: People;
  commands: PeopleCommands;
};

const columns = [
  { key: 'name', name: 'Name', share: 21 },
  { key: 'role', name: 'Role', share: 11 },
  { key: 'section', name: 'Section', share: 10 },
  { key: 'studentNumber', name: 'Student number', share: 10 },
  { key: 'signsInAs', name: 'Signs in as', share: 24 },
  { key: 'extraPercent', name: 'Extra time', right: true, share: 7 },
  { key: 'actions', name: 'Actions', quiet: true, share: 17 },
];

/** The roster: everybody in the course, with the ways to add people. */
export function PeoplePage({ base, course, timeZone, all, commands }: Props) {
  const { people, sections, former, offers, order } = all;
  const { perform, problems, busy } = usePerform();
  const [find, setFind] = useState('');
  const [adding, setAdding] = useState<'no' | 'one' | 'list'>('no');
  /** What was just done: the last thing only, so that there is one Undo. */
  const [done, setDone] = useState<{ said: string; auditId?: number } | null>(null);
  const [slips, setSlips] = useState<{ slips: Slip[]; refused: string[] } | null>(null);
  const [only, setOnly] = useState<'everybody' | 'missing' | 'former'>('everybody');
  const missing = people.filter((person) => !person.cameIn);
  const invite = (whom: readonly Person[]) =>
    void perform(() => commands.inviteAgain(whom.map((one) => one.membershipId)), setSlips);
  const students = people.filter((person) => person.role === 'student').length;
  const shown = (only === 'missing' ? missing : people).filter((person) =>
    holds(find, person.name, person.email, person.signInName, person.studentNumber, person.section, person.role),
  );
  const cells = usePeopleCells(people, sections, commands);
  const begin = (cell: HTMLElement) => {
    const row = cell.closest<HTMLElement>('[data-row]')?.dataset.row ?? '';
    if (cell.dataset.typed !== undefined) cells.begin({ row, column: cell.dataset.cell ?? '' }, null);
  };
  const { onKeyDown, onPaste } = cellKeys({
    cells,
    rows: shown.map((person) => person.membershipId),
    begins: /\S/,
    onEnter: begin,
  });
  const left = former.filter((one) => holds(find, one.name, one.section, one.role));
  const told = (said: string) => setDone({ said });
  return (
    <PageFrame>
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
      {adding === 'one' && <AddPerson sections={sections} add={commands.addPerson} onDone={told} />}
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
      <CellsUnsent cells={cells} />
      <PastedCells cells={cells} row="person" />
      {offers.length > 0 && (
        <Offers
          offers={offers}
          busy={busy}
          onAddress={(one) => void perform(() => commands.offerAgain(one.offerId), setSlips)}
          onWithdraw={(one) =>
            void perform(
              () => commands.withdrawOffer(one.offerId),
              () => told(`${one.name} is not asked any more to be ${one.role}.`),
            )
          }
        />
      )}
      {slips && <Slips {...slips} course={course} onClose={() => setSlips(null)} />}
      <Sheet label="Everybody in the course">
        <Find
          label="Find people"
          placeholder="Find by name, number, email, section"
          value={find}
          onChange={setFind}
          said={
            only === 'former'
              ? counted(left.length, 'person', 'people')
              : find.trim() || only === 'missing'
                ? `${shown.length} of ${people.length}`
                : counted(people.length, 'person', 'people')
          }
        >
          <SelectField
            label="Show"
            quiet
            className="w-44"
            value={only}
            onChange={(event) => setOnly(event.target.value as typeof only)}
          >
            <option value="everybody">everybody here</option>
            <option value="missing">not come in yet ({missing.length})</option>
            <option value="former">have left ({former.length})</option>
          </SelectField>
          <NameOrderField order={order} set={(next) => void perform(() => commands.setNameOrder(next))} />
          {missing.length > 0 && only !== 'former' && (
            <Button disabled={busy} onClick={() => invite(missing)}>
              Addresses to hand out
            </Button>
          )}
          {only !== 'former' && <CellsSaid cells={cells} room="min-w-48" />}
        </Find>
        {only === 'former' ? (
          <FormerPeople
            former={left}
            timeZone={timeZone}
            busy={busy}
            onBack={(one) =>
              void perform(
                () => commands.bringBack(one.membershipId),
                () => told(`${one.name} is back in this course.`),
              )
            }
          />
        ) : (
          <RowTable
            label="People"
            columns={columns}
            rows={shown}
            onKeyDown={onKeyDown}
            onPaste={onPaste}
            onDoubleClick={({ target }) => {
              const cell = (target as HTMLElement).closest<HTMLElement>('[data-cell]');
              if (cell && !(target instanceof HTMLInputElement)) begin(cell);
            }}
          >
            {(person) => (
              <PersonRow
                key={person.membershipId}
                person={person}
                order={order}
                busy={busy}
                cells={cells}
                first={person === shown[0]}
                onInvite={() => invite([person])}
                change={(input) => commands.changePerson(person.membershipId, input)}
                onChanged={(role) => role && told(`${person.name} has been asked to be ${role}: ${asked}`)}
                onTryAgain={() =>
                  void perform(
                    () => commands.letTryAgain(person.membershipId),
                    () => told(`${person.name} may try again at once.`),
                  )
                }
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
        )}
        {only !== 'former' && (
          <p className="border-t border-line px-3 py-1.5 text-sm text-ink-2">
            Type into section, student number and extra time: Enter goes down, Tab to the right, Escape leaves a cell,
            Ctrl+Z takes it back; a pasted column is looked at first.
          </p>
        )}
        <datalist id={knownSections}>
          {sections.map((section) => (
            <option key={section.id} value={section.name} />
          ))}
        </datalist>
      </Sheet>
    </PageFrame>
  );
}

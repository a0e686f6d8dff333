'use client';
import { useEffect, useRef, useState } from 'react';
import { counted } from '@/core/base/words';
import type { SheetsToType, StudentToType } from '@/server/answerSheet/typeIn';
import { ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RowTable } from '../kit/RowTable';
import { TextButton } from '../kit/TextButton';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { type Entry, TypeOne } from './TypeOne';

type Props = { title: string; here: string } & Commands<'beginTyping' | 'typeSheet', 'courseId' | 'sittingId'>;

/** Answers typed off papers: students in a list, the rows of one of them beside it, all by keyboard. */
export function TypeSheetsPage({ title, here, beginTyping, typeSheet }: Props) {
  const { perform, problems } = usePerform();
  const [sheets, setSheets] = useState<SheetsToType | null>(null);
  const [now, setNow] = useState('');
  /** How often somebody was chosen: their first row is where one types then. Changing the entry leaves the focus where it is. */
  const [chosen, setChosen] = useState(1);
  const [entry, setEntry] = useState<Entry>(1);
  const [said, setSaid] = useState('');
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    void perform(
      () => beginTyping(),
      (value) => {
        setSheets(value);
        setNow((value.students.find((one) => one.typed === 0 && !one.isIn) ?? value.students[0])?.userId ?? '');
      },
      { readsAnew: false },
    );
  }, [beginTyping, perform]);
  const choose = (userId: string) => {
    setNow(userId);
    setChosen((before) => before + 1);
  };
  const enter = (other: Entry) => {
    setEntry(other);
    setChosen(0);
  };
  const students = sheets?.students ?? [];
  const student = students.find((one) => one.userId === now);
  const typed = students.filter((one) => one.typed >= entry).length;
  const differing = students.reduce((sum, one) => sum + one.differs.length, 0);
  /** The next one who is not typed in this entry yet, after a student in the list; else simply the next. */
  const next = (all: readonly StudentToType[], after: string): string => {
    const at = all.findIndex((one) => one.userId === after);
    const behind = [...all.slice(at + 1), ...all.slice(0, at)];
    return (
      (behind.find((one) => one.typed < entry && !one.isIn) ?? behind.find((one) => !one.isIn) ?? behind[0])?.userId ??
      after
    );
  };
  const keep = async (one: StudentToType, rows: string[][]): Promise<boolean> => {
    const answer = await perform(
      () => typeSheet({ userId: one.userId, entry, rows }),
      (value) => {
        const all = students.map((other) =>
          other.userId === one.userId ? { ...other, ...value, rows: entry === 1 ? rows : other.rows } : other,
        );
        setSheets(sheets && { ...sheets, students: all });
        setSaid(
          value.differs.length
            ? `${one.name}: ${counted(value.differs.length, 'row differs', 'rows differ')} from the first entry.`
            : `${one.name} is kept.`,
        );
        choose(next(all, one.userId));
      },
      { readsAnew: false },
    );
    return answer !== null;
  };
  return (
    <PageFrame>
      <PageTitle
        title={`Type answers in: ${title}`}
        back={{ href: here, name: 'Answer sheets' }}
        note={
          sheets
            ? `${typed} of ${counted(students.length, 'student')} typed${entry === 2 ? ' a second time' : ''}${
                differing ? `; ${counted(differing, 'row differs', 'rows differ')} between the entries` : ''
              }`
            : 'The papers are being looked up …'
        }
      >
        {students.some((one) => one.typed > 0) && (
          <ButtonLink look="main" href={`${here}/review`}>
            Look through
          </ButtonLink>
        )}
      </PageTitle>
      <Problems problems={problems} className="mb-3" />
      {sheets && student && (
        <div className="grid items-start gap-4 lg:grid-cols-[20rem_1fr]">
          <div>
            <fieldset className="mb-3">
              <legend className="sr-only">Entry</legend>
              <Tick radio name="entry" on={entry === 1} onChange={() => enter(1)}>
                First entry
              </Tick>
              <Tick radio name="entry" on={entry === 2} onChange={() => enter(2)}>
                Second entry: every paper once more, compared with the first
              </Tick>
            </fieldset>
            <Sheet label="Students" className="max-h-[60vh] overflow-y-auto">
              <RowTable
                label="Students"
                columns={[
                  { key: 'name', name: 'Student' },
                  { key: 'typed', name: 'Typed', right: true },
                ]}
                rows={students}
              >
                {(one) => (
                  <tr
                    key={one.userId}
                    className={`border-b border-line ${one.userId === now ? 'bg-prussian-wash' : ''}`}
                  >
                    <th scope="row" className="px-3 py-1.5 text-left font-normal">
                      <TextButton
                        aria-current={one.userId === now ? 'true' : undefined}
                        onClick={() => choose(one.userId)}
                      >
                        {one.name}
                      </TextButton>
                    </th>
                    <td className="px-3 py-1.5 text-right text-sm">{stateOf(one)}</td>
                  </tr>
                )}
              </RowTable>
            </Sheet>
          </div>
          <TypeOne
            key={`${student.userId}/${entry}`}
            student={student}
            entry={entry}
            rows={sheets.layouts[student.layout] ?? []}
            said={said}
            chosen={chosen}
            keep={(rows) => keep(student, rows)}
            skip={() => choose(next(students, student.userId))}
          />
        </div>
      )}
    </PageFrame>
  );
}

function stateOf({ typed, differs, isIn }: StudentToType) {
  if (differs.length) return <State ink="waits">{counted(differs.length, 'row differs', 'rows differ')}</State>;
  if (typed === 2) return <State ink="done">twice</State>;
  if (typed === 1) return 'once';
  return isIn ? 'handed in' : '–';
}

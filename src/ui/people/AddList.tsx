'use client';
import { type ChangeEvent, useState } from 'react';
import { counted, listed, oneOrMany } from '@/core/base/words';
import type { RosterPreview } from '@/server/people/roster';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import { TextArea } from '../kit/Field';
import { Problems } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { textLook } from '../kit/textLook';
import { usePerform } from '../kit/usePerform';
import type { PeopleCommands } from './model';

const example =
  'name, student number, email, section\nAda Example, 1001, ada@school.example, Weekday\nBo Beispiel, 1002, , Evening';
const mostShown = 100;
type Halves = NonNullable<RosterPreview['halves']>;

/** A class list, pasted or from a file: first a preview with a message for each row that cannot be added, then the rest. */
/** How those who were invited come in. */
const handOutMany = 'Nothing was mailed: “Addresses to hand out” prints a slip for everybody who has not come in yet.';

export function AddList({
  commands,
  onDone,
}: {
  commands: PeopleCommands;
  onDone: (text: string, auditId: number) => void;
}) {
  const { perform, problems, busy } = usePerform();
  const {
    value: text,
    change: setText,
    done: sent,
  } = useWritten('class-list', (typed) => (typed.trim() ? 'A class list to be added' : null), '');
  const [preview, setPreview] = useState<RosterPreview | null>(null);
  const [fileProblem, setFileProblem] = useState<string | null>(null);

  const look = (list: string, halves?: Halves) => perform(() => commands.previewRoster(list, halves), setPreview);
  const fromFile = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    if (!file) return;
    // The same file, mended, can be chosen again.
    event.target.value = '';
    setFileProblem(null);
    if (file.size > 2_000_000) {
      setFileProblem('The file is larger than 2 MB. A class list is a small text file.');
      return;
    }
    try {
      const read = new TextDecoder('utf-8', { fatal: true }).decode(await file.arrayBuffer());
      setText(read);
      await look(read);
    } catch {
      setFileProblem('The file is not UTF-8 text. In the spreadsheet, save it as "CSV UTF-8" and choose it again.');
    }
  };
  const add = () =>
    perform(
      () => commands.addRoster(text, preview?.key, preview?.halves ?? undefined),
      ({ added, withoutEmail, left, auditId }) => {
        sent();
        onDone(
          [
            `${counted(added, 'student has', 'students have')} been added${added > withoutEmail ? ' and invited' : ''}.`,
            withoutEmail
              ? `${withoutEmail === added ? 'None' : withoutEmail} ${oneOrMany(withoutEmail, 'has', 'have')} ${withoutEmail === added ? 'an' : 'no'} email: print their addresses to hand out.`
              : '',
            left ? `${counted(left, 'row was', 'rows were')} left out.` : '',
            added > withoutEmail ? handOutMany : '',
          ]
            .filter(Boolean)
            .join(' '),
          auditId,
        );
      },
    );
  const withoutEmail = preview?.ready.filter((row) => !row.email).length ?? 0;
  return (
    <section aria-label="Add a class list" className="mb-4 border border-line bg-sheet p-3">
      <TextArea
        label="Paste the list here: a row for each student"
        hint="A name is enough; email, student number and section if you have them. Separated by comma, semicolon or tab, as copied from a spreadsheet. A first row may name the columns."
        rows={6}
        placeholder={example}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setPreview(null);
        }}
        problem={preview?.problem}
      />
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          look={preview && !preview.problem ? 'plain' : 'main'}
          disabled={busy || text.trim() === ''}
          onClick={() => void look(text)}
        >
          Preview
        </Button>
        <label className={textLook()}>
          or choose a CSV file
          <input
            type="file"
            accept=".csv,text/csv,text/plain"
            className="sr-only"
            onChange={(event) => void fromFile(event)}
          />
        </label>
        {fileProblem && (
          <span role="alert" className="text-brick">
            {fileProblem}
          </span>
        )}
      </div>
      <Problems problems={problems} className="mt-3" />
      {preview && !preview.problem && (
        <div className="mt-4 border-t border-line pt-3">
          <p>
            <strong>{preview.ready.length}</strong> can be added
            {preview.newSections.length > 0 && `; new sections: ${listed(preview.newSections)}`}
            {preview.bad.length > 0 && `; ${preview.bad.length} cannot`}.
          </p>
          {preview.unread.length > 0 && (
            <p className="text-saffron">Not read, and not kept: {listed(preview.unread)}.</p>
          )}
          {preview.halves && preview.ready.length > 0 && (
            <p>
              Names are read as{' '}
              {preview.halves === 'last-name' ? 'last name, then first name' : 'first name, then last name'}.{' '}
              <TextButton
                disabled={busy}
                onClick={() => void look(text, preview.halves === 'last-name' ? 'first-name' : 'last-name')}
              >
                It is the other way round
              </TextButton>
            </p>
          )}
          {withoutEmail > 0 && (
            <p>
              {counted(withoutEmail, 'row has', 'rows have')} no email: they sign in with their student number, or with
              their name, and get an address on paper.
            </p>
          )}
          {preview.ready.length > 0 && <AsRead rows={preview.ready} />}
          {preview.bad.length > 0 && (
            <table className="mt-2 w-full text-sm">
              <tbody>
                {preview.bad.slice(0, mostShown).map((row) => (
                  <tr key={row.line} className="border-t border-line">
                    <td className="py-1 pr-3 whitespace-nowrap text-ink-2">Line {row.line}</td>
                    <td className="max-w-80 truncate pr-3">{row.text}</td>
                    <td className="text-brick">{row.message}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {preview.bad.length > mostShown && (
            <p className="mt-1 text-sm text-ink-2">and {preview.bad.length - mostShown} more</p>
          )}
          <Button
            look="main"
            className="mt-3"
            disabled={busy}
            whyNot={preview.ready.length === 0 ? 'No row can be added.' : null}
            onClick={() => void add()}
          >
            Add {counted(preview.ready.length, 'student')}
          </Button>
        </div>
      )}
    </section>
  );
}

const columnsRead = [
  ['name', 'Name'],
  ['email', 'Email'],
  ['studentNumber', 'Student number'],
  ['section', 'Section'],
] as const;

/** The first rows as they are read, so that a column taken for another is seen before anybody is added. */
function AsRead({ rows }: { rows: RosterPreview['ready'] }) {
  const shown = rows.slice(0, 3);
  return (
    <table aria-label="As the list is read" className="mt-2 text-sm">
      <thead>
        <tr className="text-left text-ink-2">
          {columnsRead.map(([key, name]) => (
            <th key={key} className="py-1 pr-6 font-medium">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {shown.map((row) => (
          <tr key={row.line} className="border-t border-line">
            {columnsRead.map(([key]) => (
              <td key={key} className="max-w-96 truncate py-1 pr-6">
                {row[key] || <span className="text-ink-2">–</span>}
              </td>
            ))}
          </tr>
        ))}
        {rows.length > shown.length && (
          <tr className="border-t border-line text-ink-2">
            <td colSpan={columnsRead.length} className="py-1">
              and {rows.length - shown.length} more
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

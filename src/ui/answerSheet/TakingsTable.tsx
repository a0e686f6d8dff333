'use client';
import { counted, listed } from '@/core/base/words';
import type { SheetTaking } from '@/server/answerSheet/planSheets';
import type { SheetsPreview } from '@/server/answerSheet/takeSheets';
import { Button } from '../kit/Button';
import { Sheet } from '../kit/Page';
import { TextButton } from '../kit/TextButton';

const intoSaid: Readonly<Record<SheetTaking['into'], string>> = {
  new: 'new',
  existing: 'has answered already',
  again: 'read in again',
};

type Props = {
  preview: SheetsPreview;
  /** Whether sheets are nobody's. */
  anonymous?: boolean;
  busy: boolean;
  onTake: () => void;
  leaveOut: (taking: SheetTaking) => void;
};

/** What would come in, student by student, with what changes of what is there already. */
export function TakingsTable({ preview, anonymous = false, busy, onTake, leaveOut }: Props) {
  const coming = preview.takings.filter((one) => one.problem === null);
  return (
    <Sheet label="What comes in" className="px-5 py-4">
      <h2 className="font-serif text-lg font-semibold">What comes in</h2>
      <p className="mt-2">{preview.said}</p>
      {preview.without.length > 0 && <p className="text-ink-2">No sheet of {listed(preview.without, 6)}.</p>}
      <table className="mt-3 w-full text-left">
        <thead className="border-b border-line text-sm text-ink-2">
          <tr>
            <th scope="col">{anonymous ? 'Sheet' : 'Student'}</th>
            <th scope="col">Answers</th>
            <th scope="col">What happens</th>
            <th scope="col">
              <span className="sr-only">Leave out</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {preview.takings.map((one) => (
            <tr key={one.pages[0]} className="border-b border-line align-top">
              <th scope="row" className="py-1 font-medium">
                {one.name}
              </th>
              <td className="py-1 tabular-nums">{one.problem ? '' : one.answered}</td>
              <td className="py-1">
                {one.problem ? (
                  <span className="text-brick">{one.problem}</span>
                ) : (
                  <>
                    {intoSaid[one.into]}
                    {one.into === 'existing' &&
                      `: ${one.changes.length === 0 ? 'nothing changes' : counted(one.changes.length, 'change')}`}
                    {one.missing.length > 0 && (
                      <span className="text-saffron"> · without page {listed(one.missing.map(String))}</span>
                    )}
                    {one.notes.map((note) => (
                      <span key={note} className="block text-sm text-saffron">
                        {note}
                      </span>
                    ))}
                    {one.changes.length > 0 && (
                      <ul className="text-sm text-ink-2">
                        {one.changes.map((change) => (
                          <li key={change.number}>
                            Question {change.number}: {change.before} → {change.after}
                          </li>
                        ))}
                      </ul>
                    )}
                  </>
                )}
              </td>
              <td className="py-1 pl-3 text-right">
                <TextButton
                  onClick={() => leaveOut(one)}
                  aria-label={anonymous ? `Leave out ${one.name}` : `Leave out what ${one.name} filled in`}
                >
                  Leave out
                </TextButton>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {anonymous && (
        <p className="mt-3 max-w-prose text-ink-2">
          Nothing will lead from an answer to its sheet: all pages and pictures go as soon as they are read in, also
          those put aside.
          {preview.isForGood &&
            coming.length > 0 &&
            ' So few sheets cannot be taken back: what is kept for it would tell whose they are.'}
        </p>
      )}
      <p className="mt-3">
        <Button
          look="main"
          whyNot={busy ? 'It is being done.' : coming.length === 0 ? 'None of these sheets can come in.' : null}
          onClick={onTake}
        >
          Read {counted(coming.length, 'sheet')} in
        </Button>
      </p>
    </Sheet>
  );
}

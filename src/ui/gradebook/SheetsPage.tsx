'use client';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { GradesPreview } from '@/server/gradebook/gradeSheets';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';

type Props = {
  base: string;
  courseId: string;
  manual: { id: string; title: string; worth: number }[];
} & Commands<'undoChange', 'courseId'>;

/** The gradebook taken out as a table, and scores of manual columns brought in, after a look at what they would change. */
export function SheetsPage({ base, courseId, manual, undoChange }: Props) {
  const { perform, problems: undoProblems } = usePerform();
  const [names, setNames] = useState(true);
  const [file, setFile] = useState<File | null>(null);
  const [preview, setPreview] = useState<GradesPreview | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState<{ said: string; auditId: number } | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const address = `/c/${courseId}/gradebook/sheet`;
  const sheet = (format: string) => `${address}?format=${format}${names ? '' : '&names=no'}`;
  const send = async <T,>(what: File, key: string | null): Promise<T | null> => {
    setBusy(true);
    try {
      const answer = await fetch(key ? `${address}?key=${key}` : address, { method: 'POST', body: what });
      const body = (await answer.json()) as T & { problems?: Problem[] };
      if (answer.ok) {
        setProblems([]);
        return body;
      }
      setProblems(body.problems ?? []);
    } catch {
      setProblems([{ code: 'busy', message: 'The file could not be sent. Nothing was changed; try again.' }]);
    } finally {
      setBusy(false);
    }
    return null;
  };
  const look = async (chosen: File) => {
    setFile(chosen);
    setDone(null);
    setPreview(null);
    setPreview(await send<GradesPreview>(chosen, null));
  };
  const apply = async () => {
    if (!file || !preview) return;
    const taken = await send<{ auditId: number; entered: number }>(file, preview.key);
    if (!taken) return;
    setDone({ said: `${counted(taken.entered, 'score is', 'scores are')} entered.`, auditId: taken.auditId });
    setPreview(null);
    if (input.current) input.current.value = '';
  };
  return (
    <PageFrame width="sheet">
      <PageTitle title="In and out" back={{ href: `${base}/gradebook`, name: 'Gradebook' }} />
      {done && (
        <Done
          className="mb-3"
          onUndo={() =>
            void perform(
              () => undoChange(done.auditId),
              () => setDone(null),
            )
          }
        >
          {done.said}
        </Done>
      )}
      <Problems problems={[...problems, ...undoProblems]} className="mb-3" />
      <Sheet label="Taking out" className="mb-4 px-5 py-4">
        <h2 className="text-lg">Take it out</h2>
        <p className="mb-2 text-ink-2">
          Every student with the points of each column, the total and the band, as the gradebook shows them now.
        </p>
        <Tick on={names} onChange={setNames}>
          with names, numbers and addresses
        </Tick>
        <div className="mt-2 flex gap-2">
          <ButtonLink href={sheet('xlsx')} download>
            Spreadsheet (.xlsx)
          </ButtonLink>
          <ButtonLink href={sheet('csv')} download>
            CSV
          </ButtonLink>
        </div>
      </Sheet>
      <Sheet label="Bringing in" className="px-5 py-4">
        <h2 className="text-lg">Bring scores in</h2>
        {manual.length === 0 ? (
          <p className="text-ink-2">
            Scores are brought into columns of your own. Add one under “Columns and weights” first.
          </p>
        ) : (
          <>
            <p className="mb-2 text-ink-2">
              A spreadsheet or CSV with a column that says who (student number, email or name) and one named for each of
              your columns: {manual.map((one) => `${one.title} (of ${pointsText(one.worth)})`).join(', ')}. Empty cells
              change nothing. You see what would change before anything does.
            </p>
            <input
              ref={input}
              type="file"
              accept=".csv,.xlsx,text/csv"
              aria-label="Sheet of scores"
              onChange={(event) => event.target.files?.[0] && void look(event.target.files[0])}
            />
            {busy && <p role="status">Reading …</p>}
            {preview && (
              <section aria-label="What would change" className="mt-4">
                <p role="status">
                  {counted(preview.changes, 'score changes', 'scores change')}, {preview.same} stay,{' '}
                  {counted(preview.empty, 'cell is', 'cells are')} empty
                  {preview.wrong > 0 && (
                    <>
                      , <State ink="wrong">{counted(preview.wrong, 'entry', 'entries')} cannot be taken</State>
                    </>
                  )}
                  . Students are found by {preview.by}; columns: {preview.columns.join(', ')}.
                </p>
                {preview.ignored.length > 0 && (
                  <p className="text-ink-2">Not brought in, being no columns of yours: {preview.ignored.join(', ')}.</p>
                )}
                {preview.above > 0 && (
                  <p className="text-saffron">
                    {counted(preview.above, 'score lies', 'scores lie')} above what the column is worth.
                  </p>
                )}
                <section
                  className="mt-2 max-h-96 overflow-y-auto border border-line"
                  aria-label="Rows"
                  // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
                  tabIndex={0}
                >
                  <table className="w-full text-sm [&_td]:border-t [&_td]:border-line [&_td]:px-3 [&_td]:py-1 [&_th]:px-3 [&_th]:py-1.5 [&_th]:text-left [&_th]:font-medium">
                    <thead>
                      <tr>
                        <th>Row</th>
                        <th>Student</th>
                        <th>Column</th>
                        <th className="!text-right">Now</th>
                        <th className="!text-right">Then</th>
                        <th>What</th>
                      </tr>
                    </thead>
                    <tbody>
                      {preview.rows.map((row) => (
                        <tr key={`${row.line}${row.column}`}>
                          <td className="tabular-nums">{row.line}</td>
                          <td>{row.kind === 'change' ? row.name : row.whom}</td>
                          <td>{row.column}</td>
                          <td className="text-right tabular-nums">
                            {row.kind === 'change' && (row.from === null ? '–' : pointsText(row.from))}
                          </td>
                          <td className="text-right tabular-nums">{row.kind === 'change' && pointsText(row.points)}</td>
                          <td>
                            {row.kind === 'wrong' ? (
                              <span className="text-brick">{row.message}</span>
                            ) : row.kind === 'change' && row.above ? (
                              <State ink="waits">above the worth</State>
                            ) : (
                              'changes'
                            )}
                          </td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </section>
                <div className="mt-3 flex gap-2">
                  <Button
                    look="main"
                    disabled={busy}
                    whyNot={preview.changes === 0 ? 'Nothing in it changes anything.' : null}
                    onClick={() => void apply()}
                  >
                    Enter {counted(preview.changes, 'score')}
                  </Button>
                  <Button onClick={() => setPreview(null)}>Leave it</Button>
                </div>
              </section>
            )}
          </>
        )}
      </Sheet>
    </PageFrame>
  );
}

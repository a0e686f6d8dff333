'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Problem, Result } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { counted, shortened } from '@/core/base/words';
import type { MarksPreview } from '@/server/marking/offlineUpload';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RowTable, tableRow } from '../kit/RowTable';
import { usePerform } from '../kit/usePerform';

type Props = {
  back: { href: string; name: string };
  here: string;
  title: string;
  answers: number;
  waiting: number;
} & Commands<'undoChange', 'courseId' | 'sittingId'>;

type Applied = { marked: number; files: number; auditId: number };

/** Sends a file. @returns what the server made of it, or what was wrong */
async function send<Value>(address: string, file: File): Promise<Result<Value>> {
  const answer = await fetch(address, { method: 'POST', body: file }).catch(() => null);
  const said: unknown = await answer?.json().catch(() => null);
  if (answer?.ok) return { ok: true, value: said as Value };
  const problems = (said as { problems?: Problem[] } | null)?.problems;
  return {
    ok: false,
    problems: problems ?? [
      { code: 'busy', message: 'The server could not be reached. Nothing was changed; try again.' },
    ],
  };
}

/** Answers taken away to be marked elsewhere, and their marks brought back after a look at what would change. */
export function OfflinePage({ back, here, title, answers, waiting, undoChange }: Props) {
  const router = useRouter();
  const { perform } = usePerform();
  const [file, setFile] = useState<File | null>(null);
  const [preview, setPreview] = useState<MarksPreview | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState<{ said: string; auditId: number | null } | null>(null);
  /** What of the sheet taken over last could not be taken: it stays in sight until the next file is chosen. */
  const [left, setLeft] = useState<MarksPreview['rows']>([]);
  const read = async (next: File | null) => {
    setFile(next);
    setPreview(null);
    setDone(null);
    setProblems([]);
    setLeft([]);
    if (!next) return;
    setBusy(true);
    const answer = await send<MarksPreview>(`${here}/upload`, next);
    setBusy(false);
    if (answer.ok) setPreview(answer.value);
    else setProblems(answer.problems);
  };
  const apply = async () => {
    if (!file || !preview) return;
    setBusy(true);
    const answer = await send<Applied>(`${here}/upload?key=${encodeURIComponent(preview.key)}`, file);
    setBusy(false);
    if (!answer.ok) {
      setProblems(answer.problems);
      return;
    }
    const { marked, files, auditId } = answer.value;
    setDone({
      said: `${counted(marked, 'answer')} marked${files ? `, and ${counted(files, 'file')} kept for the students` : ''}.`,
      auditId,
    });
    setLeft(preview.rows.filter((row) => row.kind === 'wrong'));
    setPreview(null);
    setFile(null);
    router.refresh();
  };
  return (
    <PageFrame width="sheet">
      <PageTitle
        title={`Marking offline: ${title}`}
        back={back}
        note={`${counted(answers, 'answer')}, ${waiting} of them ${waiting === 1 ? 'waits' : 'wait'} for a mark`}
      />
      {done && (
        <Done
          className="mb-3"
          onUndo={
            done.auditId === null
              ? null
              : () =>
                  void perform(
                    () => undoChange(done.auditId ?? 0),
                    ({ said }) => setDone({ said, auditId: null }),
                  )
          }
        >
          {done.said}
        </Done>
      )}
      <div className="grid items-start gap-4 md:grid-cols-2">
        <Sheet label="Take the answers away" className="px-5 py-4">
          <h2 className="text-lg">1. Take the answers away</h2>
          <p className="mt-1 mb-3 text-ink-2">
            An archive with one file for each answer, as text and as a document, what was handed in, the questions, and
            a sheet for the marks. Names do not stand in it.
          </p>
          <div className="flex flex-wrap gap-2">
            <ButtonLink href={`${here}/archive?layout=question`} download>
              By question
            </ButtonLink>
            <ButtonLink href={`${here}/archive?layout=paper`} download>
              Paper by paper
            </ButtonLink>
          </div>
        </Sheet>
        <Sheet label="Bring the marks back" className="px-5 py-4">
          <h2 className="text-lg">2. Bring the marks back</h2>
          <p className="mt-1 mb-3 text-ink-2">
            The sheet alone (.xlsx or .csv), or an archive (.zip) of it with annotated files, each named by the code of
            its answer. Nothing changes before you have seen what would.
          </p>
          <label className="inline-flex min-h-9 cursor-pointer items-center gap-3 border border-edge bg-sheet px-3 font-medium has-focus-visible:outline-2 has-focus-visible:outline-prussian">
            {file ? file.name : 'Choose the file'}
            <input
              type="file"
              accept=".xlsx,.csv,.zip"
              className="sr-only"
              onChange={(event) => {
                void read(event.target.files?.[0] ?? null);
                event.target.value = '';
              }}
            />
          </label>
          {busy && <p className="mt-2 text-sm text-ink-2">Reading …</p>}
          <Problems problems={problems} className="mt-2" />
        </Sheet>
      </div>
      {left.length > 0 && (
        <Sheet label="Not taken over" className="mt-4">
          <h2 className="border-b border-line px-5 py-3 text-lg">
            Not taken over: {counted(left.length, 'row')} to be mended in your sheet
          </h2>
          <SheetRows rows={left} />
        </Sheet>
      )}
      {preview && (
        <Sheet label="What would change" className="mt-4">
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line px-5 py-3">
            <h2 className="text-lg">What would change</h2>
            <p className="mr-auto text-ink-2">
              {counted(preview.changes, 'mark')}, {counted(preview.files.length, 'file')};{' '}
              {preview.wrong > 0 && <State ink="wrong">{counted(preview.wrong, 'row')} cannot be taken</State>}
              {preview.wrong > 0 && '; '}
              {preview.same} the same, {preview.empty} left empty
            </p>
            <Button
              look="main"
              busy={busy}
              whyNot={preview.changes + preview.files.length === 0 ? 'Nothing in this file changes anything.' : null}
              onClick={() => void apply()}
            >
              Take over {counted(preview.changes, 'mark')}
              {preview.files.length > 0 && ` and ${counted(preview.files.length, 'file')}`}
            </Button>
          </div>
          {preview.rows.length > 0 && <SheetRows rows={preview.rows} />}
          {preview.rows.length < preview.changes + preview.wrong && (
            <p className="px-5 py-2 text-sm text-ink-2">
              and {preview.changes + preview.wrong - preview.rows.length} more rows
            </p>
          )}
          {preview.files.length > 0 && (
            <div className="border-t border-line px-5 py-3">
              <h3 className="text-sm font-medium">Files that go back to the students</h3>
              <ul className="mt-1 text-sm">
                {preview.files.map((one) => (
                  <li key={`${one.code}/${one.name}`}>
                    <span className="font-mono">{one.code}</span> {one.name}{' '}
                    <span className="text-ink-2">{Math.ceil(one.bytes / 1_000)} kB</span>
                  </li>
                ))}
              </ul>
            </div>
          )}
          {preview.strange.length > 0 && (
            <div className="border-t border-line px-5 py-3 text-sm text-saffron">
              <p>
                {counted(preview.strange.length, 'file')} left out, because{' '}
                {preview.strange.length === 1 ? 'its' : 'their'} name does not begin with the code of an answer, or{' '}
                {preview.strange.length === 1 ? 'it is' : 'they are'} of no kind that is taken:
              </p>
              <ul className="mt-1">
                {preview.strange.slice(0, 20).map((path) => (
                  <li key={path}>{path}</li>
                ))}
              </ul>
            </div>
          )}
        </Sheet>
      )}
    </PageFrame>
  );
}

/** Rows of a sheet of marks: what each does, or why it cannot be taken. */
const SheetRows = ({ rows }: { rows: MarksPreview['rows'] }) => (
  <RowTable
    label="Rows of the sheet"
    columns={[
      { key: 'line', name: 'Row', right: true },
      { key: 'code', name: 'Answer' },
      { key: 'question', name: 'Question' },
      { key: 'says', name: 'What it does' },
    ]}
    rows={rows}
  >
    {(row) => (
      <tr key={row.line} className={tableRow}>
        <td className="text-right tabular-nums">{row.line}</td>
        <td className="font-mono text-sm">{row.code}</td>
        <td className="max-w-60 truncate">{row.question}</td>
        <td>
          {row.kind === 'wrong' && <span className="text-brick">{row.message}</span>}
          {row.kind === 'change' && (
            <>
              <span className="tabular-nums">
                {row.from === null ? 'waits' : pointsText(row.from)} → {pointsText(row.points)} of{' '}
                {pointsText(row.outOf)}
              </span>
              {row.comment && <span className="text-ink-2"> “{shortened(row.comment, 80)}”</span>}
            </>
          )}
        </td>
      </tr>
    )}
  </RowTable>
);

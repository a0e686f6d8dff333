'use client';
import { type ClipboardEvent, useRef, useState } from 'react';
import { leftOver } from '@/core/bank/bringIn/leftOver';
import type { Line } from '@/core/bank/bringIn/readDocument';
import { type TableField, tableFieldNames, tableFields } from '@/core/bank/bringIn/readTable';
import type { CategoryNode } from '@/core/bank/categoryTree';
import type { Problem } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { Preview } from '@/server/bringIn/bringIn';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { SelectField, TextArea } from '../kit/Field';
import { PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { QuestionReview } from '../question/QuestionReview';
import { pastedLines } from './pastedLines';

type Props = {
  base: string;
  categories: CategoryNode[];
  otherBanks: { name: string; href: string }[];
  commands: Commands<'previewText' | 'bringIn' | 'undoChange', 'courseId' | 'bankId'>;
};

const example = `1. Which side of the boat shows a green light?
a) port
*b) starboard
c) the stern

2. How many cables make a nautical mile?
Answer: 10

3. The ____ runs before high water, the ____ after it.
Answer: flood; ebb`;

const stateNames = { new: 'new', there: 'already there', unreadable: 'cannot be read' };

/** Questions from a text, a document or a table: read, looked through, then taken in under one undo. And the way out. */
export function BringInPage({ base, categories, otherBanks, commands }: Props) {
  const { perform, problems, busy, setProblems } = usePerform();
  const [text, setText] = useState('');
  const [lines, setLines] = useState<Line[] | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [left, setLeft] = useState<Set<number>>(new Set());
  const [categoryId, setCategoryId] = useState(categories[0]?.id ?? '');
  const [done, setDone] = useState<{ added: number; auditId: number } | null>(null);
  const [reading, setReading] = useState(false);
  const picker = useRef<HTMLInputElement>(null);

  const show = (next: Preview) => {
    setPreview(next);
    setDone(null);
    setLeft(new Set(next.items.flatMap((item, i) => (item.state === 'new' ? [] : [i]))));
  };
  const read = () =>
    perform(() => commands.previewText(lines ? { kind: 'lines', lines } : { kind: 'text', text }), show);
  const readFile = async (file: File) => {
    setReading(true);
    setProblems([]);
    try {
      const answer = await fetch(`${base}/bring-in/file`, { method: 'POST', body: file });
      const body = (await answer.json()) as Preview & { problems?: Problem[] };
      if (answer.ok) show(body);
      else setProblems(body.problems ?? []);
    } catch {
      setProblems([{ code: 'busy', message: 'The server could not be reached. Choose the file again.' }]);
    }
    setReading(false);
    if (picker.current) picker.current.value = '';
  };
  const map = (at: number, field: TableField) => {
    if (!preview?.columns) return;
    const { headings, rows, fields } = preview.columns;
    const next = fields.map((one, i) => (i === at ? field : one));
    void perform(() => commands.previewText({ kind: 'table', headings, rows, fields: next }), show);
  };
  const chosen =
    preview?.items.flatMap((item, i) => (item.content && !left.has(i) ? [{ ...item, content: item.content }] : [])) ??
    [];
  const takenOf = (items: Preview['items']) =>
    items.map((item, i) => ({ at: item.at, taken: item.state === 'there' || (item.content !== null && !left.has(i)) }));
  const take = () =>
    perform(
      () => commands.bringIn({ categoryId, items: chosen }),
      (value) => {
        setDone(value);
        setPreview(null);
        // What was not taken stays, to be mended.
        setText(preview && !preview.columns ? leftOver(text, takenOf(preview.items)) : '');
        setLines(null);
      },
    );
  const paste = (event: ClipboardEvent) => {
    const html = event.clipboardData.getData('text/html');
    const found = html ? pastedLines(html) : [];
    // What stands out marks right answers, so it is kept beside the words until they are changed by hand.
    if (text.trim() === '' && found.length > 0) {
      event.preventDefault();
      setLines(found);
      setText(
        found
          .map((line) =>
            [
              line.label,
              line.runs
                .map((run) => run.text)
                .join('')
                .trim(),
            ]
              .filter(Boolean)
              .join(' '),
          )
          .join('\n'),
      );
    }
  };
  return (
    <div className="min-w-0">
      <PageTitle title="Bring in, take out" back={{ href: base, name: 'The bank' }}>
        <ButtonLink href={`${base}/take-out?as=csv`} download>
          Take out as CSV
        </ButtonLink>
        <ButtonLink href={`${base}/take-out?as=xlsx`} download>
          Take out as XLSX
        </ButtonLink>
      </PageTitle>
      {done && (
        <Done
          className="mb-3 border border-line"
          onUndo={() =>
            void perform(
              () => commands.undoChange(done.auditId),
              () => setDone(null),
            )
          }
        >
          {counted(done.added, 'question')} brought in{text ? '; what was not taken stands below, to be mended' : ''}.{' '}
          <TextLink href={`${base}?sort=written&down=yes`}>Look at them</TextLink>
        </Done>
      )}
      <Problems problems={problems} className="mb-3" />
      {!preview ? (
        <div className="grid gap-4 lg:grid-cols-[3fr_2fr]">
          <Sheet label="From a text" className="px-5 py-4">
            <TextArea
              label="Paste numbered questions from a word processor"
              rows={14}
              placeholder={example}
              value={text}
              onPaste={paste}
              onChange={(event) => {
                setText(event.target.value);
                setLines(null);
              }}
              hint={lines ? 'Bold, underlined and highlighted choices are remembered as right ones.' : undefined}
            />
            <Button
              look="main"
              className="mt-3"
              disabled={busy}
              whyNot={text.trim() ? null : 'Paste something first.'}
              onClick={() => void read()}
            >
              Read it
            </Button>
            <details className="mt-3 text-sm">
              <summary className="text-prussian">What is understood</summary>
              <ul className="mt-1 list-disc space-y-0.5 pl-5">
                <li>Questions numbered 1. or 1); choices lettered a) or A.</li>
                <li>
                  The right choice with a star or tick, in bold, underlined or highlighted; or “Answer: B”; or a key at
                  the end.
                </li>
                <li>
                  “Answer: True”, a number, or words divided by semicolons; without an answer it is a written one.
                </li>
                <li>Blanks as ____, their answers behind “Answer:” divided by semicolons.</li>
                <li>
                  Lines that begin with Feedback, Solution, Hint, Points, Difficulty, Category, Tags, Objective, Name.
                </li>
              </ul>
            </details>
          </Sheet>
          <div className="space-y-4">
            <Sheet label="From a file" className="px-5 py-4">
              <label htmlFor="bring-in-file" className="mb-1 block text-sm font-medium">
                Or a file: DOCX, XLSX, CSV or plain text, at most 20 MB
              </label>
              <input
                id="bring-in-file"
                ref={picker}
                type="file"
                accept=".docx,.xlsx,.csv,.txt,text/plain,text/csv"
                disabled={reading}
                onChange={(event) => event.target.files?.[0] && void readFile(event.target.files[0])}
                className="w-full file:mr-3 file:min-h-9 file:rounded-sm file:border file:border-edge file:bg-sheet file:px-3"
              />
              <p role="status" className="mt-1 text-sm text-ink-2">
                {reading
                  ? 'Reading …'
                  : 'A table needs headings in its first row; what each column holds is asked next.'}
              </p>
            </Sheet>
            <Sheet label="From another bank" className="px-5 py-4">
              <h2 className="text-sm font-sans font-medium">From another bank of this course</h2>
              {otherBanks.length === 0 ? (
                <p className="text-ink-2">This course has only this bank.</p>
              ) : (
                <ul>
                  {otherBanks.map((bank) => (
                    <li key={bank.href}>
                      <TextLink href={bank.href}>{bank.name}</TextLink>: select questions there and choose “Copy to
                      another bank”.
                    </li>
                  ))}
                </ul>
              )}
            </Sheet>
          </div>
        </div>
      ) : (
        <Sheet label="Preview" className="px-5 py-4">
          <div className="flex flex-wrap items-end justify-between gap-3">
            <p className="text-lg" role="status">
              {preview.counts.new} new, {preview.counts.there} already there, {preview.counts.unreadable} that cannot be
              read
              {preview.counts.unreadable > 0 && !preview.columns && (
                <span className="block text-sm text-ink-2">
                  What is not brought in stays in the text, to be mended there.
                </span>
              )}
            </p>
            <div className="flex items-end gap-2">
              <SelectField
                label="Where no category is named, into"
                className="w-64"
                value={categoryId}
                onChange={(event) => setCategoryId(event.target.value)}
              >
                {categories.map((one) => (
                  <option key={one.id} value={one.id}>
                    {'\u2003'.repeat(one.depth)}
                    {one.name}
                  </option>
                ))}
              </SelectField>
              <Button onClick={() => setPreview(null)}>Back to the text</Button>
              <Button
                look="main"
                disabled={busy}
                whyNot={chosen.length === 0 ? 'Nothing is chosen.' : null}
                onClick={() => void take()}
              >
                Bring in {chosen.length}
              </Button>
            </div>
          </div>
          {preview.columns && (
            <div className="mt-3 overflow-x-auto border border-line p-2">
              <p className="text-sm text-ink-2">What each column holds; remembered for tables with these headings.</p>
              <div className="flex gap-2">
                {preview.columns.headings.map((heading, i) => (
                  <SelectField
                    // biome-ignore lint/suspicious/noArrayIndexKey: headings may repeat
                    key={i}
                    label={heading || `column ${i + 1}`}
                    className="w-36 shrink-0"
                    value={preview.columns?.fields[i] ?? 'ignore'}
                    onChange={(event) => map(i, event.target.value as TableField)}
                  >
                    {tableFields.map((field) => (
                      <option key={field} value={field}>
                        {tableFieldNames[field]}
                      </option>
                    ))}
                  </SelectField>
                ))}
              </div>
            </div>
          )}
          <ol className="mt-3">
            {preview.items.slice(0, 500).map((item, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the list never reorders
              <li key={i} className={`flex gap-3 border-t border-line py-2 ${left.has(i) ? 'bg-paper' : ''}`}>
                <input
                  type="checkbox"
                  aria-label={`Bring in ${item.title || `line ${item.at}`}`}
                  disabled={!item.content}
                  checked={Boolean(item.content) && !left.has(i)}
                  onChange={() =>
                    setLeft((before) => {
                      const next = new Set(before);
                      if (!next.delete(i)) next.add(i);
                      return next;
                    })
                  }
                  className="mt-1.5 size-4 shrink-0 accent-prussian"
                />
                <div className="min-w-0 flex-1">
                  <p className="flex flex-wrap justify-between gap-x-3 text-sm text-ink-2">
                    <span>
                      {preview.columns ? 'Row' : 'Line'} {item.at}
                      {item.type && ` · ${item.type.toLowerCase()}`}
                      {item.category && ` · ${item.category}`}
                      {item.difficulty && ` · ${item.difficulty}`}
                    </span>
                    <span
                      className={`font-medium ${item.state === 'new' ? 'text-pine' : item.state === 'there' ? 'text-saffron' : 'text-brick'}`}
                    >
                      {stateNames[item.state]}
                    </span>
                  </p>
                  {item.problems.map((problem) => (
                    <p
                      key={problem.message}
                      className={`text-sm ${problem.severity === 'error' ? 'text-brick' : 'text-saffron'}`}
                    >
                      {problem.message}
                    </p>
                  ))}
                  {item.content ? (
                    <QuestionReview content={item.content} />
                  ) : (
                    <p className="font-serif">{item.title}</p>
                  )}
                </div>
              </li>
            ))}
          </ol>
          {preview.items.length > 500 && (
            <p className="text-sm text-ink-2">The first 500 are shown; all that are new are brought in.</p>
          )}
          {preview.items.length === 0 && (
            <p className="mt-3 text-ink-2">No question was found: each begins with its number, such as “1.”.</p>
          )}
        </Sheet>
      )}
    </div>
  );
}

'use client';
import { type ReactNode, useEffect, useState } from 'react';
import { counted } from '@/core/base/words';
import {
  type SheetField,
  type SheetLayout,
  sheetFieldNames,
  sheetFields,
  sheetWords,
} from '@/core/gradebook/feedbackSheet';
import type { SheetBlock, SheetDocument } from '@/core/gradebook/sheetDocument';
import type { SheetsPage } from '@/server/gradebook/feedbackSheets';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { SelectField, TextArea } from '../kit/Field';
import { MoveButtons } from '../kit/MoveButtons';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { PrintProgress } from '../kit/PrintProgress';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { RichText } from '../kit/RichText';
import { TextButton } from '../kit/TextButton';
import { Tick } from '../kit/Tick';
import { Unkept } from '../kit/Unkept';
import { usePerform } from '../kit/usePerform';

type SheetsCommands = Commands<
  'saveLayout' | 'sampleSheet' | 'printFeedback' | 'sheetsState' | 'cancelSheets',
  'courseId' | 'sittingId'
>;

type Props = { back: string; file: string; page: SheetsPage; commands: SheetsCommands };

/** Feedback sheets of a sitting: laid out from named fields with a live sample, and printed, a document for each student. */
export function FeedbackSheetsPage({ back, file, page, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const ready = page.students.filter((one) => one.published);
  const [layout, setLayout] = useState(page.layout);
  const [kept, setKept] = useState(true);
  const [sampleOf, setSampleOf] = useState(ready[0]?.userId ?? '');
  const [sample, setSample] = useState<SheetDocument | null>(null);
  const [format, setFormat] = useState<'pdf' | 'docx'>('pdf');
  const unseen = ready.filter((one) => !one.seesRight).length;
  /** For this printing only: it is no part of the layout. */
  const [early, setEarly] = useState(false);
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set(ready.map((one) => one.userId)));
  const change = (part: Partial<SheetLayout>) => {
    setLayout({ ...layout, ...part });
    setKept(false);
  };
  const { sampleSheet: askSample } = commands;
  useEffect(() => {
    if (!sampleOf) return;
    let gone = false;
    const timer = setTimeout(() => {
      void askSample(sampleOf, layout, early).then((answer) => {
        if (!gone && answer.ok) setSample(answer.value);
      });
    }, 300);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [sampleOf, layout, early, askSample]);
  const others = sheetFields.filter((field) => !layout.fields.includes(field));
  const move = (i: number, to: number) => {
    const fields = [...layout.fields];
    const [one] = fields.splice(i, 1);
    if (one) fields.splice(to, 0, one);
    change({ fields });
  };
  return (
    <PageFrame>
      <PageTitle
        title="Feedback sheets"
        back={{ href: back, name: `Results: ${page.title}` }}
        note="A document for each student, from results as they were published"
      />
      <Unkept on={!kept} />
      {ready.length === 0 ? (
        <Empty title="No results published yet">Sheets are printed for students whose result has been published.</Empty>
      ) : (
        <div className="grid items-start gap-5 lg:grid-cols-[25rem_1fr]">
          <div className="space-y-4">
            <Sheet label="What stands on a sheet" className="px-5 py-4">
              <h2 className="mb-1 text-lg">What stands on a sheet</h2>
              <ol>
                {layout.fields.map((field, i) => (
                  <li key={field} className="flex items-center border-t border-line">
                    <span className="flex-1 py-1.5">{sheetFieldNames[field]}</span>
                    <MoveButtons
                      name={sheetFieldNames[field]}
                      onUp={i > 0 ? () => move(i, i - 1) : null}
                      onDown={i < layout.fields.length - 1 ? () => move(i, i + 1) : null}
                      onRemove={() => change({ fields: layout.fields.filter((one) => one !== field) })}
                    />
                  </li>
                ))}
              </ol>
              {others.length > 0 && (
                <SelectField
                  label="Add a field"
                  className="mt-2"
                  value=""
                  onChange={(event) => change({ fields: [...layout.fields, event.target.value as SheetField] })}
                >
                  <option value="">…</option>
                  {others.map((field) => (
                    <option key={field} value={field}>
                      {sheetFieldNames[field]}
                    </option>
                  ))}
                </SelectField>
              )}
              <Tick on={layout.rightAnswers} className="mt-2" onChange={(rightAnswers) => change({ rightAnswers })}>
                With right answers and solutions
              </Tick>
              {layout.rightAnswers && unseen > 0 && (
                <div className="mt-1 ml-6 text-sm">
                  <p className="text-saffron">
                    {unseen === ready.length
                      ? 'Students do not see right answers on their own page now, so their sheets stay without them.'
                      : `${counted(unseen, 'student does', 'students do')} not see right answers on their own page now; these sheets stay without them.`}
                  </p>
                  {page.leaks.map((leak) => (
                    <p key={leak} className="text-saffron">
                      {leak}
                    </p>
                  ))}
                  <Tick on={early} onChange={setEarly}>
                    Print them all the same
                  </Tick>
                </div>
              )}
              {layout.fields.includes('letter') && (
                <Words
                  label={sheetFieldNames.letter}
                  value={layout.letter}
                  problem={problemAt(problems, 'letter')}
                  onChange={(letter) => change({ letter })}
                />
              )}
              {layout.fields.includes('signature') && (
                <Words
                  label={sheetFieldNames.signature}
                  value={layout.signature}
                  problem={problemAt(problems, 'signature')}
                  onChange={(signature) => change({ signature })}
                />
              )}
              <Problems problems={problemsBesides(problems, ['letter', 'signature'])} className="mt-2" />
              <p className="mt-3 flex items-center gap-3">
                <Button
                  disabled={busy}
                  whyNot={kept ? 'It is saved as it is.' : null}
                  onClick={() =>
                    void perform(
                      () => commands.saveLayout(layout),
                      () => setKept(true),
                    )
                  }
                >
                  Save this layout
                </Button>
                <span className="text-sm text-ink-2">{kept ? 'Saved for this course' : 'Changed, not saved yet'}</span>
              </p>
            </Sheet>
            <Sheet label="Print" className="px-5 py-4">
              <h2 className="mb-1 text-lg">Print</h2>
              <SelectField
                label="As"
                value={format}
                onChange={(event) => setFormat(event.target.value as typeof format)}
              >
                <option value="pdf">PDF</option>
                <option value="docx">DOCX, to be written into</option>
              </SelectField>
              <details className="mt-2">
                <summary className="text-prussian">
                  {picked.size === ready.length
                    ? `All ${counted(ready.length, 'student')}`
                    : `${picked.size} of ${counted(ready.length, 'student')}`}
                  {ready.length < page.students.length &&
                    `; ${page.students.length - ready.length} have no published result`}
                </summary>
                <div className="mt-1 max-h-60 overflow-y-auto border border-line px-2">
                  <Tick
                    on={picked.size === ready.length}
                    onChange={(on) => setPicked(new Set(on ? ready.map((one) => one.userId) : []))}
                  >
                    all
                  </Tick>
                  {ready.map((one) => (
                    <Tick
                      key={one.userId}
                      on={picked.has(one.userId)}
                      onChange={(on) => {
                        const next = new Set(picked);
                        if (on) next.add(one.userId);
                        else next.delete(one.userId);
                        setPicked(next);
                      }}
                    >
                      {one.name}
                    </Tick>
                  ))}
                </div>
              </details>
              <PrintProgress
                state={page.state}
                begin={() =>
                  commands.printFeedback({
                    format,
                    early,
                    ...(picked.size < ready.length ? { userIds: [...picked] } : {}),
                  })
                }
                progress={commands.sheetsState}
                end={commands.cancelSheets}
                what="sheets"
                whyNot={
                  !kept
                    ? 'Save the layout first, or go back to the one saved.'
                    : picked.size === 0
                      ? 'Pick a student.'
                      : null
                }
                act={() => `Print ${counted(picked.size, 'sheet')}`}
                file={file}
                fileSaid={(now) => `Take the archive with ${counted(now.total, 'sheet')}`}
                download
              />
            </Sheet>
          </div>
          <section aria-label="Sample">
            <SelectField
              label="Sample"
              className="mb-2 w-72"
              value={sampleOf}
              onChange={(event) => setSampleOf(event.target.value)}
            >
              {ready.map((one) => (
                <option key={one.userId} value={one.userId}>
                  {one.name}
                </option>
              ))}
            </SelectField>
            {sample && <Shown sheet={sample} />}
          </section>
        </div>
      )}
    </PageFrame>
  );
}

/** Words in which names of fields may stand; a press puts one in at the end. */
function Words({
  label,
  value,
  problem,
  onChange,
}: {
  label: string;
  value: string;
  problem: string | null;
  onChange: (value: string) => void;
}) {
  return (
    <div className="mt-3">
      <TextArea
        label={label}
        rows={3}
        value={value}
        problem={problem}
        onChange={(event) => onChange(event.target.value)}
      />
      <p className="mt-1 flex flex-wrap gap-x-2 text-sm">
        {sheetWords.map((word) => (
          <TextButton key={word} className="decoration-dotted" onClick={() => onChange(`${value}{${word}}`)}>
            {`{${word}}`}
            <span className="sr-only"> into {label}</span>
          </TextButton>
        ))}
      </p>
    </div>
  );
}

/** A sheet as it will be printed, on the screen. */
const Shown = ({ sheet }: { sheet: SheetDocument }) => (
  <article className="border border-line bg-sheet px-10 py-8 shadow-sm">
    <h2 className="text-2xl">{sheet.title}</h2>
    <p className="mb-3 border-b border-ink pb-2 text-sm text-ink-2">{sheet.note}</p>
    {sheet.blocks.map((block, i) => (
      // biome-ignore lint/suspicious/noArrayIndexKey: a sheet is shown as it is; nothing on it changes its order
      <ShownBlock key={i} block={block} />
    ))}
  </article>
);

function ShownBlock({ block }: { block: SheetBlock }): ReactNode {
  switch (block.kind) {
    case 'heading':
      return <h3 className="mt-5 text-lg">{block.text}</h3>;
    case 'text':
      return <p className="mt-2 font-serif whitespace-pre-wrap">{block.text}</p>;
    case 'result':
      return (
        <p className="mt-3 flex items-baseline gap-4">
          <span className="font-serif text-2xl font-semibold">{block.text}</span>
          <span className="text-lg">{block.note}</span>
        </p>
      );
    case 'table':
      return (
        <table className="mt-2 w-full text-sm">
          <thead>
            <tr>
              {block.head.map((cell, i) => (
                <th key={cell} className={`py-1 font-medium ${block.right.includes(i) ? 'text-right' : 'text-left'}`}>
                  {cell}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {block.rows.map((row) => (
              <tr key={row[0]} className="border-t border-line">
                {row.map((cell, i) => (
                  <td
                    key={block.head[i]}
                    className={`py-1 ${block.right.includes(i) ? 'text-right tabular-nums' : ''}`}
                  >
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      );
    case 'question':
      return (
        <section className="mt-3 border-t border-line pt-2">
          <div className="flex gap-3">
            <span className="font-medium">{block.number}</span>
            <div className="min-w-0 flex-1">
              <RichText rich={block.stem} />
            </div>
            <span className="text-right text-sm text-ink-2">
              {block.points}
              <br />
              {block.verdict}
            </span>
          </div>
          <div className="ml-6 text-sm">
            <p>Your answer: {block.answer || 'none'}</p>
            {block.right !== null && <p>Right: {block.right}</p>}
            {block.solution && <RichText rich={block.solution} className="text-ink-2" />}
            {block.comment && <p className="mt-1 border-l-2 border-ink pl-2">{block.comment}</p>}
          </div>
        </section>
      );
    case 'lines':
      return (
        <div className="mt-5">
          <p className="font-medium">{block.label}</p>
          {Array.from({ length: block.count }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines have nothing but their place
            <div key={i} className="h-8 border-b border-line" />
          ))}
        </div>
      );
  }
}

import { counted } from '@/core/base/words';
import { Button } from '../kit/Button';
import { TextArea } from '../kit/Field';
import { Sheet } from '../kit/Page';
import { TextLink } from '../kit/TextLink';
import type { BringingIn } from './useBringIn';

const example = `1. Which side of the boat shows a green light?
a) port
*b) starboard
c) the stern

2. How many cables make a nautical mile?
Answer: 10

3. The ____ runs before high water, the ____ after it.
Answer: flood; ebb`;

/** Where questions come from: a text, a file, another bank. */
export function BringInSources({
  bringing,
  otherBanks,
}: {
  bringing: BringingIn;
  otherBanks: { name: string; href: string }[];
}) {
  const { reading } = bringing;
  const choose = async (input: HTMLInputElement) => {
    const [file] = input.files ?? [];
    if (!file) return;
    await bringing.readFile(file);
    // The same file, mended, can be chosen again.
    input.value = '';
  };
  return (
    <div className="grid gap-4 lg:grid-cols-[3fr_2fr]">
      <Sheet label="From a text" className="px-5 py-4">
        <TextArea
          label="Paste questions from a word processor, a mail or a spreadsheet"
          rows={14}
          placeholder={example}
          value={bringing.text}
          onPaste={bringing.paste}
          onChange={(event) => bringing.type(event.target.value)}
          hint={
            bringing.hasForm
              ? 'What is bold, underlined, highlighted or coloured is remembered: it marks right choices.'
              : undefined
          }
        />
        {bringing.table && (
          <p className="mt-2">
            The table of {counted(bringing.table.rows.length, 'row')} you had chosen is still here.
          </p>
        )}
        <Button
          look="main"
          className="mt-3"
          disabled={bringing.busy}
          whyNot={bringing.text.trim() || bringing.table ? null : 'Paste something first.'}
          onClick={bringing.read}
        >
          {bringing.busy ? 'Reading …' : 'Read it'}
        </Button>
        <details className="mt-3 text-sm">
          <summary className="text-prussian">What is understood</summary>
          <ul className="mt-1 list-disc space-y-0.5 pl-5">
            <li>
              Questions with numbers or without; choices with letters, numbers, bullets or boxes, also on one line.
            </li>
            <li>
              The right choice with a star, a tick or “(correct)”, in bold, underlined, highlighted or in red or green;
              or “Answer: B”; or a list of keys.
            </li>
            <li>
              “Answer: True”, a number with tolerance and unit such as “75 ± 1 m”, or words divided by semicolons;
              without an answer it is a written one.
            </li>
            <li>Blanks as ____, their answers behind “Answer:” divided by semicolons.</li>
            <li>
              Lines that begin with Feedback, Solution, Hint, Points, Difficulty, Category, Tags, Objective, Name.
            </li>
            <li>Cells copied from a spreadsheet: one question in each row.</li>
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
            type="file"
            accept=".docx,.xlsx,.csv,.txt,text/plain,text/csv"
            disabled={reading}
            onChange={(event) => void choose(event.target)}
            className="w-full file:mr-3 file:min-h-9 file:rounded-sm file:border file:border-edge file:bg-sheet file:px-3"
          />
          <p role="status" className="mt-1 text-sm text-ink-2">
            {reading ? 'Reading …' : 'A table needs headings in its first row; what each column holds is asked next.'}
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
                  <TextLink href={bank.href}>{bank.name}</TextLink>: select questions there and choose “Copy to another
                  bank”.
                </li>
              ))}
            </ul>
          )}
        </Sheet>
      </div>
    </div>
  );
}

'use client';
import type { KeyOnSheet } from '@/core/answerSheet/keySheet';
import { counted } from '@/core/base/words';
import type { Item } from '@/core/exam/items/item';
import type { PrintedKeySheet } from '@/server/answerSheet/keySheets';
import { Button } from '../../kit/Button';
import type { Commands } from '../../kit/commands';
import { FileLink } from '../../kit/FileLink';
import { Problems } from '../../kit/Problems';
import { usePerform } from '../../kit/usePerform';
import { useKeyReading } from './useKeyReading';

/** What reading a key from a sheet needs: the sheets that were printed, the address of the newest, and how one is made. */
export type KeySheetAccess = { sheets: readonly PrintedKeySheet[]; href: string } & Commands<
  'makeKeySheet',
  'courseId' | 'examId'
>;

type Props = { items: readonly Item[]; access: KeySheetAccess; onRead: (key: KeyOnSheet) => void };

/** A key that is filled in on paper and read, instead of being typed. */
export function KeyFromSheet({ items, access, onRead }: Props) {
  const { perform, problems, busy } = usePerform();
  const { state, begin } = useKeyReading(items, onRead);
  return (
    <details className="mt-3 border-t border-line pt-2">
      <summary className="text-prussian underline underline-offset-4">Read it from a filled sheet</summary>
      <p className="mt-2 max-w-prose text-ink-2">
        Print a sheet for the key, fill in what is right, and read its copy or a picture of it. What it says stands
        above to be looked at, before it is given.
      </p>
      <p className="mt-2 flex flex-wrap items-center gap-3">
        <Button whyNot={busy ? 'It is being made.' : null} onClick={() => void perform(() => access.makeKeySheet())}>
          Make a sheet for the key
        </Button>
        {access.sheets.length > 0 && (
          <FileLink href={access.href} target="_blank">
            Open the sheet for the key
          </FileLink>
        )}
      </p>
      <Problems problems={problems} className="mt-2" />
      {access.sheets.length > 0 && (
        <label className="mt-2 inline-flex flex-wrap items-center gap-3">
          <span className="font-medium">Filled sheet to read</span>
          <input
            type="file"
            multiple
            accept="application/pdf,image/*"
            onChange={(event) => begin([...(event.target.files ?? [])], access.sheets)}
          />
        </label>
      )}
      <p role="status" className="mt-2">
        {state.kind === 'reading' && 'It is being read …'}
        {state.kind === 'read' && readSaid(state.key)}
      </p>
      {state.kind === 'failed' && (
        <p role="alert" className="mt-2 text-brick">
          {state.why}
        </p>
      )}
      {state.kind === 'read' &&
        state.pictures.map((picture, i) => (
          // biome-ignore lint/performance/noImgElement: a picture of a sheet is neither scaled nor kept by the framework
          <img
            key={picture}
            src={picture}
            alt={`Page ${i + 1} of the sheet as it was read`}
            className="mt-2 w-full max-w-xl border border-line bg-white"
          />
        ))}
    </details>
  );
}

/** What was read, and what a person has to say: @example readSaid({ text: '1 A', doubts: ['2'], empty: [] }) */
function readSaid({ text, doubts, empty }: KeyOnSheet): string {
  const lines = text ? text.split('\n').length : 0;
  return [
    `${counted(lines, 'right answer was', 'right answers were')} read: look at them above, then give the key.`,
    ...(doubts.length ? [`In doubt, say them yourself: ${doubts.join(', ')}.`] : []),
    ...(empty.length ? [`Left empty: ${empty.join(', ')}.`] : []),
  ].join(' ');
}

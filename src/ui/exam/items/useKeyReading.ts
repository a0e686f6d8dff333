import { useCallback, useEffect, useRef, useState } from 'react';
import { judgePage, type RowReading } from '@/core/answerSheet/judgeMarks';
import { type KeyOnSheet, keyOnSheet } from '@/core/answerSheet/keySheet';
import { type FoundOnPage, unpackPage } from '@/core/answerSheet/pageParcel';
import { readSheetCode } from '@/core/answerSheet/sheetCode';
import { layOutSheet } from '@/core/answerSheet/sheetLayout';
import type { SheetsMessage, SheetsWish } from '@/core/answerSheet/sheetMessages';
import type { Item } from '@/core/exam/items/item';
import type { PrintedKeySheet } from '@/server/answerSheet/keySheets';

type State =
  | { kind: 'idle' }
  | { kind: 'reading' }
  | { kind: 'read'; key: KeyOnSheet; pictures: string[] }
  | { kind: 'failed'; why: string };

/** What was found on a page of a key sheet, judged; null where it is none of them. */
function judged(sheets: readonly PrintedKeySheet[], { code, darkness }: FoundOnPage) {
  const read = code === null ? null : readSheetCode(code);
  const sheet = sheets.find((one) => one.id === read?.layout);
  const page = sheet && read ? layOutSheet(sheet.plan)[read.page - 1] : undefined;
  if (!sheet || !page || darkness?.length !== page.boxes.length) return null;
  return {
    sheet,
    rows: judgePage(
      sheet.plan,
      page,
      darkness.map((percent) => percent / 100),
    ),
  };
}

/**
 * Reads a filled sheet as a key, in a worker. Nothing is given by it: what it says is looked at first.
 *
 * @param onRead what was read
 */
export function useKeyReading(items: readonly Item[], onRead: (key: KeyOnSheet) => void) {
  const [state, setState] = useState<State>({ kind: 'idle' });
  const worker = useRef<Worker | null>(null);
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  useEffect(() => stop, [stop]);
  const begin = (files: File[], sheets: readonly PrintedKeySheet[]) => {
    if (files.length === 0) return;
    stop();
    const own = new Worker(new URL('../../../workers/sheets.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    setState({ kind: 'reading' });
    const rows: RowReading[] = [];
    const pictures: string[] = [];
    let read: PrintedKeySheet | undefined;
    const end = () => {
      stop();
      if (!read)
        return setState({
          kind: 'failed',
          why: 'No sheet for the key of this exam was found in these files: print one here, fill it in, and read that.',
        });
      const key = keyOnSheet(items, read, rows);
      setState({ kind: 'read', key, pictures });
      onRead(key);
    };
    own.onerror = () => {
      stop();
      setState({ kind: 'failed', why: 'The files could not be read in this browser.' });
    };
    own.onmessage = ({ data }: MessageEvent<SheetsMessage>) => {
      if (data.kind === 'done') return end();
      if (data.kind !== 'page') return;
      const page = unpackPage(data.parcel);
      const found = page && judged(sheets, page.found as FoundOnPage);
      // Of two sheets that were filled in the first one counts: the other may be of another time.
      if (page && found && (!read || read.id === found.sheet.id)) {
        read = found.sheet;
        rows.push(...found.rows.filter((row) => !rows.some((one) => one.row === row.row)));
        pictures.push(URL.createObjectURL(new Blob([page.picture as BlobPart], { type: 'image/webp' })));
      }
      own.postMessage('next' satisfies SheetsWish);
    };
    own.postMessage({ files, layouts: sheets.map(({ id, plan }) => ({ id, plan })) } satisfies SheetsWish);
  };
  return { state, begin };
}

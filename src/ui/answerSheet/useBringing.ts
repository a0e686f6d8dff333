import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { SheetsMessage, SheetsWish } from '@/core/answerSheet/sheetMessages';
import type { SheetsToRead } from '@/server/answerSheet/bringPages';
import { sendSheet } from './sendSheet';

type State = { kind: 'idle' } | { kind: 'reading'; read: number; pages: number } | { kind: 'failed'; why: string };

/** The largest file that is read. */
const largest = 1_000_000_000;
/**
 * Reads files in a worker, a page at a time, and sends each page on.
 *
 * @param to where pages are sent
 * @param review where one goes once all are read
 */
export function useBringing(to: string, { layouts }: SheetsToRead, review: string) {
  const [state, setState] = useState<State>({ kind: 'idle' });
  const worker = useRef<Worker | null>(null);
  const router = useRouter();
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  useEffect(() => stop, [stop]);
  const begin = (files: File[]) => {
    if (files.length === 0) return;
    const tooLarge = files.find((file) => file.size > largest);
    if (tooLarge) return setState({ kind: 'failed', why: `${tooLarge.name} is larger than 1 GB: divide it.` });
    stop();
    const own = new Worker(new URL('../../workers/sheets.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    let [read, pages] = [0, 0];
    setState({ kind: 'reading', read, pages });
    const fail = (why: string) => {
      stop();
      setState({ kind: 'failed', why });
    };
    own.onerror = () => fail('The files could not be read in this browser.');
    own.onmessage = async ({ data }: MessageEvent<SheetsMessage>) => {
      if (data.kind === 'pages') {
        pages += data.pages;
        setState({ kind: 'reading', read, pages });
      } else if (data.kind === 'page') {
        const sent = await sendSheet(to, data.parcel);
        if (worker.current !== own) return;
        if ('why' in sent) return fail(sent.why);
        read += 1;
        setState({ kind: 'reading', read, pages: Math.max(pages, read) });
        own.postMessage('next' satisfies SheetsWish);
      } else if (data.kind === 'done') {
        // The reader of PDFs says things of its own from there, which are nobody's business.
        stop();
        router.push(review);
      }
    };
    own.postMessage({ files, layouts } satisfies SheetsWish);
  };
  return {
    state,
    begin,
    stop: () => {
      stop();
      setState({ kind: 'idle' });
      router.refresh();
    },
  };
}

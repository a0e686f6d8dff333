import { parentPort } from 'node:worker_threads';
import type { PrintMessage, PrintOrder } from '../core/exam/printedPaper';
import { printPapers } from '../print/printPapers';
import { printSheets } from '../print/printSheets';

const say = (message: PrintMessage, moved: ArrayBuffer[] = []) => parentPort?.postMessage(message, moved);

/** Prints what it is sent, tells how far it is, and answers with the bytes. One order for each thread. */
parentPort?.once('message', (order: PrintOrder) => {
  const onProgress = (done: number) => say({ kind: 'progress', done });
  ('papers' in order ? printPapers(order, onProgress) : printSheets(order, onProgress))
    .then((bytes) => say({ kind: 'done', bytes }, [bytes.buffer as ArrayBuffer]))
    .catch((thrown: unknown) =>
      say({ kind: 'failed', message: thrown instanceof Error ? (thrown.stack ?? thrown.message) : String(thrown) }),
    );
});

import type { PrintMessage, PrintOrder } from '../core/print/printOrder';
import { printAnswerSheets } from '../print/printAnswerSheets';
import { printPapers } from '../print/printPapers';
import { printSheets } from '../print/printSheets';

const say = (message: PrintMessage) => process.send?.(message);

async function printed(order: PrintOrder, onProgress: (done: number) => void): Promise<Uint8Array> {
  if ('papers' in order) return printPapers(order, onProgress);
  // What only the stand-in needs is loaded only for it.
  if ('filled' in order) return (await import('../print/fillSheets')).fillSheets(order.filled, onProgress);
  return 'answerSheets' in order ? printAnswerSheets(order.answerSheets) : printSheets(order, onProgress);
}

/** Prints what it is sent, tells how far it is, and answers with the bytes. One order for each process. */
process.once('message', (order: PrintOrder) => {
  const onProgress = (done: number) => say({ kind: 'progress', done });
  printed(order, onProgress)
    .then((bytes) => say({ kind: 'done', bytes }))
    .catch((thrown: unknown) =>
      say({ kind: 'failed', message: thrown instanceof Error ? (thrown.stack ?? thrown.message) : String(thrown) }),
    );
});
// Whoever asked is gone, and with them whoever could read it.
process.once('disconnect', () => process.exit());

import { Worker } from 'node:worker_threads';
import type { PrintMessage, PrintOrder } from '@/core/print/printOrder';

/** A print that goes on in a thread of its own; ending it leaves nothing behind. */
export type Printing = { bytes: Promise<Uint8Array>; end: () => void };

/**
 * Prints in a thread, so that nobody who writes an exam waits for it.
 *
 * @param onProgress told how many papers are printed
 */
function printInThread(order: PrintOrder, onProgress: (done: number) => void = () => {}): Printing {
  // Named by the server's own process: the thread is a file beside it, which the bundler of the pages knows nothing of.
  const script = process.env.WUZZEN_PRINTER;
  if (!script) throw new Error('WUZZEN_PRINTER does not name the printing thread.');
  const thread = new Worker(script);
  const bytes = new Promise<Uint8Array>((resolve, reject) => {
    thread.on('message', (message: PrintMessage) => {
      if (message.kind === 'progress') onProgress(message.done);
      else {
        if (message.kind === 'done') resolve(message.bytes);
        else reject(new Error(message.message));
        void thread.terminate();
      }
    });
    thread.once('error', reject);
    thread.once('exit', () => reject(new Error('The printing was ended.')));
  });
  thread.postMessage(order);
  return { bytes, end: () => void thread.terminate() };
}

/** What prints. Tests of what stands around it put something in its place that prints nothing. */
export const printer = { print: printInThread };

import { fork } from 'node:child_process';
import { constants, setPriority } from 'node:os';
import type { PrintMessage, PrintOrder } from '@/core/print/printOrder';
import { logFailure } from '../house/log';

/** A print that goes on in a process of its own; ending it leaves nothing behind. */
export type Printing = { bytes: Promise<Uint8Array>; end: () => void };

/**
 * Prints in a process of its own, so that nobody who writes an exam waits for it: the typesetter keeps hundreds of
 * megabytes for a class, which are given back only with the process, and whatever goes wrong there ends nothing else.
 *
 * @param onProgress told how many papers are printed
 */
function printApart(order: PrintOrder, onProgress: (done: number) => void = () => {}): Printing {
  // Named by the server's own process: the printer is a file beside it, which the bundler of the pages knows nothing of.
  const script = process.env.WUZZEN_PRINTER;
  if (!script) throw new Error('WUZZEN_PRINTER does not name the printer.');
  const child = fork(script, { serialization: 'advanced', execArgv: [...process.execArgv, '--expose-gc'] });
  try {
    if (child.pid) setPriority(child.pid, constants.priority.PRIORITY_BELOW_NORMAL);
  } catch (why) {
    logFailure(why, undefined, 'The printer works as fast as everything else.');
  }
  const bytes = new Promise<Uint8Array>((resolve, reject) => {
    child.on('message', (message: PrintMessage) => {
      if (message.kind === 'progress') return onProgress(message.done);
      if (message.kind === 'done') resolve(message.bytes);
      else reject(new Error(message.message));
      child.kill();
    });
    child.once('error', reject);
    child.once('exit', () => reject(new Error('The printing was ended.')));
  });
  child.send(order);
  return { bytes, end: () => void child.kill() };
}

/** What prints. Tests of what stands around it put something in its place that prints nothing. */
export const printer = { print: printApart };

import { Worker } from 'node:worker_threads';
import { type Result, refused } from '@/core/base/result';
import { logFailure } from '../house/log';
import { type ReadBy, type Reading, readHere, type readings } from './readings';

/**
 * What reading one file may take: more memory or time than that needs no document that people write. Objects of the thread
 * are bounded by its engine; what the whole process grows by meanwhile is looked at besides, because unpacked bytes are none
 * of them. In megabytes and milliseconds.
 */
export const readingLimits = { objects: 192, growth: 320, milliseconds: 20_000 };

/** How often the growth of the process is looked at, in milliseconds. */
const lookEvery = 25;

/** So many are read at the same time, so that a processor stays for everybody else; and so many may wait for it. */
const atOnce = 1;
const mostWaiting = 20;

const givenUp =
  'This file takes far more time or memory to read than anything that people write, and was given up. Nothing was changed.';

let running = 0;
const waiting: (() => void)[] = [];
/** Threads that wait for the next file. */
const idle: Worker[] = [];

/**
 * Reads what comes from outside in a thread of its own, with limits on memory and time: whatever it is, everybody else is
 * served meanwhile, and a file that cannot be read within them is given up in words.
 *
 * @example const table = await readOutside('sheet', file, { most: 600, of: 'at most 600 rows are read' });
 */
export async function readOutside<Name extends keyof typeof readings>(
  name: Name,
  ...sent: Extract<Reading, { name: Name }>['sent']
): Promise<ReadBy<Name> | Result<never>> {
  const reading = { name, sent } as unknown as Reading;
  // Named by the server's own process, as what prints; a script that only loads data reads by itself.
  const script = process.env.WUZZEN_READER;
  if (!script) return (await readHere(reading)) as ReadBy<Name>;
  if (running >= atOnce) {
    if (waiting.length >= mostWaiting)
      return refused('busy', 'Many files are being read just now. Try again in a minute.');
    // Whoever is done hands its place on.
    await new Promise<void>((resolve) => waiting.push(resolve));
  } else running += 1;
  const worker = idle.pop() ?? begin(script);
  try {
    return (await readIn(worker, reading)) as ReadBy<Name> | Result<never>;
  } finally {
    const next = waiting.shift();
    if (next) next();
    else running -= 1;
  }
}

function begin(script: string): Worker {
  const worker = new Worker(script, {
    resourceLimits: { maxOldGenerationSizeMb: readingLimits.objects, maxYoungGenerationSizeMb: 32 },
  });
  worker.unref();
  // What an ended thread still says is heard by nobody.
  worker.on('error', () => {});
  worker.once('exit', () => {
    const at = idle.indexOf(worker);
    if (at >= 0) idle.splice(at, 1);
  });
  return worker;
}

/** Reads one thing in a thread, which then waits for the next, or is ended where it was too much. */
function readIn(worker: Worker, reading: Reading): Promise<Result<unknown>> {
  return new Promise((resolve) => {
    const answered = (answer: Result<unknown>) => {
      clearTimeout(clock);
      clearInterval(watch);
      worker.off('message', whole);
      worker.off('error', broken);
      resolve(answer);
    };
    const end = (answer: Result<unknown>) => {
      answered(answer);
      void worker.terminate();
    };
    const whole = (answer: Result<unknown>) => {
      answered(answer);
      idle.push(worker);
    };
    const broken = (why: Error) => {
      const isTooMuch = 'code' in why && why.code === 'ERR_WORKER_OUT_OF_MEMORY';
      if (!isTooMuch) logFailure(why, undefined, 'Reading a file failed.');
      end(refused('bad-input', isTooMuch ? givenUp : 'This file cannot be read: it is damaged, or something else.'));
    };
    const clock = setTimeout(() => end(refused('bad-input', givenUp)), readingLimits.milliseconds);
    const most = process.memoryUsage.rss() + readingLimits.growth * 1_048_576;
    const watch = setInterval(() => {
      if (process.memoryUsage.rss() > most) end(refused('bad-input', givenUp));
    }, lookEvery);
    worker.once('message', whole);
    worker.once('error', broken);
    worker.postMessage(reading);
  });
}

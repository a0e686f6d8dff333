import { constants, setPriority } from 'node:os';
import { parentPort } from 'node:worker_threads';
import { type Reading, readHere } from '../server/outside/readings';

// Here a thread has a priority of its own: whoever writes an exam comes before whoever brings something in.
if (process.platform === 'linux') setPriority(0, constants.priority.PRIORITY_LOW);

/** Reads what it is sent, one thing after the other. What fails unforeseen ends the thread, which its owner sees. */
parentPort?.on('message', (reading: Reading) => {
  void readHere(reading).then((answer) => parentPort?.postMessage(answer));
});

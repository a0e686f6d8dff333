import { parentPort } from 'node:worker_threads';
import { type Reading, readHere } from '../server/outside/readings';

/** Reads what it is sent, one thing after the other. What fails unforeseen ends the thread, which its owner sees. */
parentPort?.on('message', (reading: Reading) => {
  void readHere(reading).then((answer) => parentPort?.postMessage(answer));
});

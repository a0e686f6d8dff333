import { createServer, request } from 'node:http';
import { freePort } from './serve';

export type Recorder = {
  /** The address a browser uses instead of the server's own. */
  origin: string;
  /** Everything the server has answered so far, headers and bodies, as text. */
  everything: () => string;
  stop: () => Promise<void>;
};

/** Stands between a browser and the server and keeps every byte that goes to the browser. */
export async function record(target: string): Promise<Recorder> {
  const { hostname, port } = new URL(target);
  const kept: Buffer[] = [];
  const server = createServer((incoming, outgoing) => {
    const headers = { ...incoming.headers };
    // Plain bodies, so that they can be read.
    delete headers['accept-encoding'];
    const onward = request({ hostname, port, path: incoming.url, method: incoming.method, headers }, (answer) => {
      kept.push(Buffer.from(`\n${incoming.method} ${incoming.url} ${JSON.stringify(answer.headers)}\n`));
      outgoing.writeHead(answer.statusCode ?? 502, answer.headers);
      answer.on('data', (chunk: Buffer) => kept.push(chunk));
      answer.pipe(outgoing);
    });
    onward.on('error', () => outgoing.destroy());
    outgoing.on('close', () => onward.destroy());
    incoming.pipe(onward);
  });
  const own = await freePort();
  await new Promise<void>((resolve) => server.listen(own, '127.0.0.1', resolve));
  return {
    origin: `http://127.0.0.1:${own}`,
    everything: () => Buffer.concat(kept).toString('utf8'),
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

import { Agent, request } from 'node:http';

export type Answer = { status: number; text: string; took: number };

/** A light client: on one machine it must not take the time that it measures. */
export function lightClient(origin: string, sockets = Number.POSITIVE_INFINITY) {
  const agent = new Agent({ keepAlive: true, maxSockets: sockets });
  return {
    /** @returns the status, the body and the milliseconds until it was there; status 0 where nobody answered */
    send: (path: string, cookie: string, body?: unknown): Promise<Answer> =>
      new Promise((resolve) => {
        const begun = performance.now();
        const method = body === undefined ? 'GET' : 'POST';
        const headers = { cookie, origin, 'content-type': 'application/json' };
        const asked = request(origin + path, { agent, method, headers }, (answer) => {
          const chunks: Buffer[] = [];
          answer.on('data', (chunk: Buffer) => chunks.push(chunk));
          answer.on('end', () =>
            resolve({
              status: answer.statusCode ?? 0,
              text: Buffer.concat(chunks).toString('utf8'),
              took: performance.now() - begun,
            }),
          );
          answer.on('error', () => resolve({ status: 0, text: '', took: performance.now() - begun }));
        });
        asked.on('error', () => resolve({ status: 0, text: '', took: performance.now() - begun }));
        asked.end(body === undefined ? undefined : JSON.stringify(body));
      }),
    /** Opens a stream of events and keeps it open. @returns how many events came, and how to close it */
    listen: (
      path: string,
      cookie: string,
    ): Promise<{ events: () => number; isOpen: () => boolean; close: () => void }> =>
      new Promise((resolve, reject) => {
        let events = 0;
        let open = true;
        const asked = request(origin + path, { headers: { cookie }, agent: false }, (answer) => {
          if (answer.statusCode !== 200) {
            reject(new Error(`${path} answered ${answer.statusCode}`));
            return;
          }
          answer.on('data', (chunk: Buffer) => {
            events += chunk.toString('utf8').split('data: ').length - 1;
          });
          for (const end of ['end', 'error', 'close'] as const)
            answer.on(end, () => {
              open = false;
            });
          resolve({ events: () => events, isOpen: () => open, close: () => asked.destroy() });
        });
        asked.on('error', (why) => (open ? reject(why) : undefined));
        asked.end();
      }),
    close: () => agent.destroy(),
  };
}

/** The value below which so great a share of all lies. */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
}

import { type ChildProcess, spawn } from 'node:child_process';
import { createServer } from 'node:net';

/** A port of this machine that nothing listens on. */
export function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() =>
        address && typeof address === 'object' ? resolve(address.port) : reject(new Error('No port')),
      );
    });
  });
}

export type Served = {
  origin: string;
  folder: string;
  process: ChildProcess;
  /** Everything the server has printed, for the message of a failing test. */
  printed: () => string;
  stop: (signal?: NodeJS.Signals) => Promise<void>;
};

/** As the start command sets it. */
const memoryLimit = '--max-old-space-size=768';

const clockToken = 'clock-of-the-tests';

/** Starts the production build over a data folder and waits until it says that it is ready. */
export async function serve(
  folder: string,
  kind: 'test' | 'demo' | 'production',
  more: Record<string, string> = {},
): Promise<Served> {
  const port = more.PORT ?? (await freePort());
  const child = spawn(process.execPath, [...(process.env.NODE_ARGS?.split(' ') ?? []), memoryLimit, 'dist/main.js'], {
    env: {
      ...process.env,
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      WUZZEN_DATA: folder,
      WUZZEN_KIND: kind,
      PORT: String(port),
      WUZZEN_CLOCK_TOKEN: clockToken,
      ...more,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let printed = '';
  const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  await new Promise<void>((resolve, reject) => {
    const read = (chunk: Buffer) => {
      printed += chunk.toString();
      if (printed.includes('Wuzzen is ready')) resolve();
    };
    child.stdout?.on('data', read);
    child.stderr?.on('data', read);
    child.once('exit', (code) => reject(new Error(`The server ended with ${code} before it was ready:\n${printed}`)));
  });
  return {
    origin: `http://127.0.0.1:${port}`,
    folder,
    process: child,
    printed: () => printed,
    stop: async (signal = 'SIGTERM') => {
      child.kill(signal);
      await gone;
    },
  };
}

/** Moves the clock of a served test folder by so many milliseconds from now. */
export async function moveClock(origin: string, offset: number): Promise<void> {
  const response = await fetch(`${origin}/api/house/clock`, {
    method: 'POST',
    headers: { 'x-clock-token': clockToken },
    body: JSON.stringify({ offset }),
  });
  if (!response.ok) throw new Error(`The clock could not be moved: ${response.status}`);
}

/** Posts JSON as a page of the app would. */
export function post(origin: string, path: string, body: unknown, cookies = ''): Promise<Response> {
  return fetch(origin + path, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin, cookie: cookies },
    body: JSON.stringify(body),
  });
}

/** Signs in by email and password. @returns the cookies of the session */
export async function signIn(origin: string, email: string, password: string): Promise<string> {
  const response = await post(origin, '/api/sign-in', { name: email, password });
  if (!response.ok) throw new Error(`Signing in as ${email} failed with ${response.status}`);
  return response.headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0])
    .join('; ');
}

import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { database } from './db/client';
import { migrateDatabase } from './db/migrate';
import { WatchedFolder, watchedFolder } from './server/answerSheet/watchFolder';
import { storeContacts } from './server/attempt/contacts';
import { handInExpired } from './server/attempt/endAttempt';
import { receiveBody, type Turned } from './server/house/bodies';
import { keepToOneself, lockDataFolder } from './server/house/dataFolder';
import { claimFolder, folderKind, installationSecret, serverNow } from './server/house/installation';
import { logFailure } from './server/house/log';
import { actorOf } from './server/people/auth';
import { offerSetUp } from './server/people/setUp';
import { releaseDue } from './server/release/releaseDue';

/** How often attempts whose time is over are handed in. */
const sweepEvery = 1_000;
/** How often the folder of scans is looked into, in milliseconds. */
const lookEvery = 4_000;

/** How long an idle connection is kept, in milliseconds. */
const keepLinesFor = 75_000;

/** How long a body may take to arrive, in milliseconds. */
const slowestBody = 180_000;

/** Signs of life are written down, and what publishes itself is looked at, with every so many sweeps. */
const storeContactsEvery = 5;

const forwarded = [
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-proto',
  'x-forwarded-port',
  'forwarded',
  'x-real-ip',
  'x-middleware-subrequest',
  'x-request-id',
];

/**
 * Says who really sent a request. What a client writes into forwarding headers is overwritten with the socket's address;
 * only a proxy that the installation trusts (WUZZEN_TRUSTED_PROXY, its address) may speak for others.
 */
function tellAddress(request: IncomingMessage): void {
  const socket = (request.socket.remoteAddress ?? '').replace(/^::ffff:/, '');
  const trusted = process.env.WUZZEN_TRUSTED_PROXY;
  const said = String(request.headers['x-forwarded-for'] ?? '')
    .split(',')
    .at(-1)
    ?.trim();
  for (const name of forwarded) delete request.headers[name];
  request.headers['x-forwarded-for'] = trusted && trusted === socket && said ? said : socket;
}

/** In development files are read anew as they change; reloading needs `eval` and a socket, which 'self' covers. */
const inDevelopment = process.env.NODE_ENV === 'development';

const pagePolicy = (nonce: string): string =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${inDevelopment ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');

/** An attached PDF runs nothing of its own, and our own pages may show it in a frame. */
const documentPolicy = "default-src 'none'; object-src 'self'; style-src 'unsafe-inline'; frame-ancestors 'self'";

/**
 * A worker runs under the policy of its own script, so that decoders of pictures that are compiled (for sheets in odd PDFs)
 * run there and on no page.
 */
const scriptPolicy = "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; object-src 'none'; base-uri 'none'";

/** The content policy of a page: scripts only with this response's nonce, nothing from elsewhere. */
function guard(request: IncomingMessage, response: ServerResponse): void {
  const nonce = randomBytes(16).toString('base64');
  const policy = request.url?.startsWith('/documents/')
    ? documentPolicy
    : request.url?.startsWith('/_next/static/')
      ? scriptPolicy
      : pagePolicy(nonce);
  // The framework reads the nonce for its own scripts from the policy on the request.
  request.headers['content-security-policy'] = policy;
  response.setHeader('Content-Security-Policy', policy);
  if (process.env.WUZZEN_ORIGIN?.startsWith('https:'))
    response.setHeader('Strict-Transport-Security', 'max-age=31536000');
  response.setHeader('X-Content-Type-Options', 'nosniff');
  response.setHeader('Referrer-Policy', 'same-origin');
  // Answer sheets are held before it. A page that is gone to keeps the policy of the one that was loaded.
  response.setHeader('Permissions-Policy', 'camera=(self), microphone=(), geolocation=()');
}

/** Names a request: in the log, in its response, and on an error page. */
function nameRequest(request: IncomingMessage, response: ServerResponse): void {
  const id = randomBytes(6).toString('hex');
  request.headers['x-request-id'] = id;
  response.setHeader('X-Request-Id', id);
}

const turned: Record<Turned, { status: number; code: string; message: string }> = {
  'too-large': { status: 413, code: 'bad-input', message: 'This is larger than anything that is taken.' },
  'signed-out': { status: 401, code: 'not-allowed', message: 'You are signed out. Sign in again.' },
  busy: { status: 429, code: 'busy', message: 'Several files are arriving just now. Try again in a minute.' },
};

/** Makes place for what a request brings along, or answers it before a byte of that is read. @returns whether it goes on */
async function makePlace(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
  const { 'content-length': length, 'transfer-encoding': coding, cookie = '' } = request.headers;
  const place = await receiveBody(
    { length, isChunked: coding !== undefined },
    async () => (await actorOf(new Headers({ cookie })))?.userId ?? null,
  );
  if (typeof place === 'function') {
    response.once('close', place);
    // Whoever has gone meanwhile holds no place.
    if (response.closed || request.destroyed) place();
    return true;
  }
  const { status, ...problem } = turned[place];
  response.once('finish', () => request.destroy());
  response.writeHead(status, { 'Content-Type': 'application/json', Connection: 'close' });
  response.end(JSON.stringify({ problems: [problem] }));
  return false;
}

type Handle = (request: IncomingMessage, response: ServerResponse) => Promise<void>;

async function main(): Promise<void> {
  const folder = process.env.WUZZEN_DATA;
  if (!folder) throw new Error('WUZZEN_DATA is not set: name the folder in which Wuzzen keeps its data.');
  const wantedKind =
    process.env.WUZZEN_KIND === 'demo' || process.env.WUZZEN_KIND === 'test' ? process.env.WUZZEN_KIND : 'production';
  keepToOneself();
  const unlock = lockDataFolder(folder);
  process.on('exit', unlock);
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));

  const db = database();
  migrateDatabase(db, folder);
  claimFolder(db, wantedKind);
  const kind = folderKind(db);
  if (kind !== wantedKind)
    throw new Error(`The data folder ${folder} was created as ${kind}; it cannot be served as ${wantedKind}.`);
  installationSecret(db);

  process.env.WUZZEN_PRINTER ??= fileURLToPath(new URL('./printing.js', import.meta.url));
  process.env.WUZZEN_HANDSETS ??= fileURLToPath(new URL('./handsets.js', import.meta.url));
  process.env.WUZZEN_READER ??= fileURLToPath(new URL('./reading.js', import.meta.url));
  const host = process.env.WUZZEN_HOST ?? '127.0.0.1';
  // Who asks before the app is prepared, as pages do while the server starts again, waits for it.
  let open: (handle: Handle) => void = () => undefined;
  const prepared = new Promise<Handle>((resolve) => {
    open = resolve;
  });
  const server = createServer((request, response) => {
    tellAddress(request);
    nameRequest(request, response);
    guard(request, response);
    prepared
      .then(async (handle) => {
        if (await makePlace(request, response)) await handle(request, response);
      })
      .catch((why: unknown) => {
        logFailure(why, String(request.headers['x-request-id']), 'A request failed.');
        if (!response.headersSent) response.statusCode = 500;
        response.end();
      });
  });
  // Pages save every twenty seconds or so: a line that is closed sooner is closed under a save on its way.
  server.keepAliveTimeout = keepLinesFor;
  server.headersTimeout = keepLinesFor + 5_000;
  // A file of the largest size over a slow line needs minutes; what is slower only holds a place.
  server.requestTimeout = slowestBody;
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(Number(process.env.PORT ?? 3000), host, resolve);
  });
  const { port } = server.address() as AddressInfo;
  process.env.WUZZEN_ORIGIN ??= `http://${host.includes(':') ? `[${host}]` : host}:${port}`;

  const { default: next } = await import('next');
  const app = next({
    dev: inDevelopment,
    turbopack: inDevelopment,
    hostname: host,
    port,
    ...(inDevelopment ? { httpServer: server } : {}),
  });
  await app.prepare();
  open(app.getRequestHandler());

  let sweeps = 0;
  const sweep = () => {
    try {
      handInExpired({ db, now: serverNow() });
      if (++sweeps % storeContactsEvery === 0) {
        storeContacts(db);
        releaseDue(db, serverNow());
      }
    } catch (why) {
      logFailure(why, undefined, 'Handing in expired attempts failed; it is tried again.');
    }
  };
  sweep();
  setInterval(sweep, sweepEvery);

  const watched = watchedFolder();
  if (watched) {
    const folder = new WatchedFolder(db, watched, serverNow);
    setInterval(() => {
      folder
        .look()
        .catch((why: unknown) =>
          logFailure(why, undefined, 'The watched folder could not be looked into; it is tried again.'),
        );
    }, lookEvery);
  }

  const token = kind === 'production' ? offerSetUp(db) : null;
  if (token)
    console.log(
      `Nobody is here yet. Set Wuzzen up at this one-time address:\n  ${process.env.WUZZEN_ORIGIN}/set-up/${token}`,
    );
  console.log(`Wuzzen is ready at ${process.env.WUZZEN_ORIGIN}`);
}

main().catch((why: unknown) => {
  console.error(why instanceof Error ? why.message : why);
  process.exit(1);
});

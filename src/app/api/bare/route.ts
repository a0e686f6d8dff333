import { eventStream } from '../eventStream';
import { bodyOf, refuse } from '../reply';

/** Streams with nothing behind them: what a broadcast of this server costs by itself, for measuring others against. */
const open = new Set<(data: unknown) => void>();

const may = (headers: Headers): boolean => {
  const token = process.env.WUZZEN_CLOCK_TOKEN;
  return Boolean(token) && headers.get('x-clock-token') === token;
};

const nothing = () => refuse('not-found', 'There is nothing here.');

let streams = 0;

export function GET(request: Request) {
  if (!may(request.headers)) return nothing();
  streams += 1;
  return eventStream(request, `bare ${streams}`, (send) => {
    open.add(send);
    send(null);
    return () => open.delete(send);
  });
}

/** Sends what comes to every open stream. */
export async function POST(request: Request) {
  if (!may(request.headers)) return nothing();
  const body = await bodyOf(request);
  for (const send of open) send(body);
  return Response.json({ streams: open.size });
}

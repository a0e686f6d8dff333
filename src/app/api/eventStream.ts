/** A browser whose line is dead is noticed by what cannot be written to it. */
const sign = ': still here\n\n';
const signEvery = 20_000;

/** So many streams of one person about one thing are open at once; another one ends the oldest. */
const mostOpen = 4;
const open = new Map<string, (() => void)[]>();

function opened(key: string, end: () => void): void {
  const own = open.get(key) ?? [];
  open.set(key, own);
  own.push(end);
  if (own.length > mostOpen) own[0]?.();
}

function closed(key: string, end: () => void): void {
  const left = (open.get(key) ?? []).filter((one) => one !== end);
  if (left.length) open.set(key, left);
  else open.delete(key);
}

/**
 * Answers with a stream of server-sent events (HTML Living Standard, section 9.2).
 *
 * @param key names the person and what the stream is about
 * @param begin is called once with what sends an event and what ends the stream; what it returns is called when the browser
 *   has gone
 */
export function eventStream(
  request: Request,
  key: string,
  begin: (send: (data: unknown) => void, end: () => void) => () => void,
): Response {
  const encoder = new TextEncoder();
  let end = () => {};
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const write = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          end();
        }
      };
      let over = false;
      let stop = () => {};
      const timer = setInterval(() => write(sign), signEvery);
      end = () => {
        if (over) return;
        over = true;
        clearInterval(timer);
        closed(key, end);
        stop();
        try {
          controller.close();
        } catch {
          // Closed from the other side already.
        }
      };
      request.signal.addEventListener('abort', () => end());
      opened(key, end);
      stop = begin(
        (data) => write(`data: ${JSON.stringify(data)}\n\n`),
        () => end(),
      );
      if (over) stop();
      // The browser waits so long before it comes back after a break.
      write('retry: 2000\n\n');
    },
    cancel() {
      end();
    },
  });
  return new Response(body, {
    headers: {
      'Content-Type': 'text/event-stream; charset=utf-8',
      'Cache-Control': 'no-store, no-transform',
      'X-Accel-Buffering': 'no',
    },
  });
}

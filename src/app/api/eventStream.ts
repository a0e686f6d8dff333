/** A browser whose line is dead is noticed by what cannot be written to it. */
const sign = ': still here\n\n';
const signEvery = 20_000;

/**
 * Answers with a stream of server-sent events (HTML Living Standard, section 9.2).
 *
 * @param begin is called once with what sends an event; what it returns is called when the browser has gone
 */
export function eventStream(request: Request, begin: (send: (data: unknown) => void) => () => void): Response {
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
      const stop = begin((data) => write(`data: ${JSON.stringify(data)}\n\n`));
      const timer = setInterval(() => write(sign), signEvery);
      let over = false;
      end = () => {
        if (over) return;
        over = true;
        clearInterval(timer);
        stop();
        try {
          controller.close();
        } catch {
          // Closed from the other side already.
        }
      };
      request.signal.addEventListener('abort', () => end());
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

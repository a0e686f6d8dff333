import type { Instrumentation } from 'next';

/** Writes down what broke a page or a route, under the reference its error page shows. */
export const onRequestError: Instrumentation.onRequestError = async (why, request) => {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { log } = await import('./server/house/log');
  const reference = why instanceof Error && 'digest' in why ? why.digest : undefined;
  const requestId = request.headers['x-request-id'];
  log.error({ requestId, reference, method: request.method, path: request.path, err: why }, 'A request failed.');
};

import { pino } from 'pino';

/**
 * What happens on the server, as one line of JSON each on the standard error output; what is said to the person who
 * starts it stays plain text on the standard output. `WUZZEN_LOG` names the least level that is written.
 */
export const log = pino(
  {
    base: undefined,
    level: process.env.WUZZEN_LOG ?? 'info',
    timestamp: pino.stdTimeFunctions.isoTime,
    formatters: { level: (level) => ({ level }) },
  },
  pino.destination({ dest: 2, sync: true }),
);

/** A failure that nobody foresaw, under the id of the request it broke. */
export function logFailure(why: unknown, requestId: string | undefined, during: string): void {
  log.error({ requestId, err: why }, during);
}

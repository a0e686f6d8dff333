import { ok } from '@/core/base/result';
import { startAttempt } from '@/server/attempt/startAttempt';
import { openForWriting } from '@/server/attempt/takeAttempt';
import { changing, reply } from '../../reply';

/** Starts an attempt and opens it for the browser that asks: one answer brings it all it needs to show the paper. */
export async function POST(request: Request) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const { sittingId, code } = (asked.body ?? {}) as { sittingId?: unknown; code?: unknown };
  const word = (value: unknown) => (typeof value === 'string' ? value : '');
  const started = startAttempt(asked.context, word(sittingId), word(code));
  if (!started.ok) return reply(started);
  const opened = openForWriting(asked.context, started.value.attemptId);
  return reply(opened.ok ? ok({ ...started.value, opening: opened.value }) : started);
}

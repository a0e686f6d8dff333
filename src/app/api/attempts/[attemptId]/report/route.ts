import { reportQuestion } from '@/server/sitting/reports';
import { changing, reply } from '../../../reply';

/** A student's word that something is wrong with a question of their paper. */
export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const { slotId, text } = (asked.body ?? {}) as { slotId?: unknown; text?: unknown };
  const word = (value: unknown) => (typeof value === 'string' ? value : '');
  return reply(reportQuestion(asked.context, (await params).attemptId, word(slotId), word(text)));
}

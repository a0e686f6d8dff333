import { readSave } from '@/server/attempt/saveResponses';
import { saveTogether } from '@/server/attempt/saveTogether';
import { changing, refuse, reply } from '../../../reply';

export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const save = readSave((await params).attemptId, asked.body);
  if (!save) return refuse('bad-input', 'This is not an answer.');
  return reply(await saveTogether(asked.context, save));
}

import { existsSync } from 'node:fs';
import type { Result } from '@/core/base/result';
import { answerFolder } from '@/server/attempt/answerFiles';
import { mediaFile } from '@/server/bank/media';
import { type Context, contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { fileBody } from './fileBody';

/** A file that somebody sent, to be kept rather than opened: nothing of it runs in a page of ours. */
export async function keptDownload(
  request: Request,
  open: (context: Context) => Result<{ name: string; bytes: number; hash: string }>,
): Promise<Response> {
  const actor = await actorOf(request.headers);
  const opened = actor ? open(contextFor(actor, request.headers)) : null;
  const file = opened?.ok ? mediaFile(opened.value.hash, answerFolder()) : '';
  if (!opened?.ok || !existsSync(file)) return new Response('There is no such file.', { status: 404 });
  const { name, bytes } = opened.value;
  return new Response(fileBody(file, bytes - 1), {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(bytes),
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': "default-src 'none'; sandbox",
      'Cache-Control': 'private, no-store',
    },
  });
}

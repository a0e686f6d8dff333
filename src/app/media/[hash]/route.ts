import { existsSync } from 'node:fs';
import { mediaFile, openMedia } from '@/server/bank/media';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { fileBody } from '../../api/fileBody';

/** A stored picture, sound or video, whole or the part that a player asks for. */
export async function GET(request: Request, { params }: { params: Promise<{ hash: string }> }) {
  const { hash } = await params;
  const actor = await actorOf(request.headers);
  const opened = actor ? openMedia(contextFor(actor, request.headers), hash) : null;
  const file = mediaFile(hash);
  if (!opened?.ok || !existsSync(file)) return new Response('There is no such file.', { status: 404 });
  const { type, bytes } = opened.value;
  const range = /^bytes=([0-9]+)-([0-9]*)$/.exec(request.headers.get('range') ?? '');
  const start = range ? Number(range[1]) : 0;
  const end = Math.min(bytes - 1, range?.[2] ? Number(range[2]) : bytes - 1);
  if (start > end) return new Response(null, { status: 416, headers: { 'Content-Range': `bytes */${bytes}` } });
  return new Response(fileBody(file, end, start), {
    status: range ? 206 : 200,
    headers: {
      'Content-Type': type,
      'Content-Length': String(end - start + 1),
      'Accept-Ranges': 'bytes',
      ...(range ? { 'Content-Range': `bytes ${start}-${end}/${bytes}` } : {}),
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': "default-src 'none'; sandbox",
      'Cache-Control': 'private, max-age=300',
    },
  });
}

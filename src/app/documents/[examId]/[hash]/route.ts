import { existsSync } from 'node:fs';
import { documentFolder, openDocument } from '@/server/exam/examDocument';
import { contextFor } from '@/server/house/context';
import { keptFile } from '@/server/house/keepFile';
import { actorOf } from '@/server/people/auth';
import { fileBody } from '../../../api/fileBody';

/** The paper of an off-screen exam. Our own pages may show it in a frame beside what belongs to it. */
export async function GET(request: Request, { params }: { params: Promise<{ examId: string; hash: string }> }) {
  const actor = await actorOf(request.headers);
  const { examId, hash } = await params;
  const opened = actor ? openDocument(contextFor(actor, request.headers), examId, hash) : null;
  const file = opened?.ok ? keptFile(documentFolder(), opened.value.hash) : '';
  if (!opened?.ok || !existsSync(file)) return new Response('There is no such document.', { status: 404 });
  const { name, bytes } = opened.value;
  return new Response(fileBody(file, bytes - 1), {
    headers: {
      'Content-Type': 'application/pdf',
      'Content-Length': String(bytes),
      'Content-Disposition': `inline; filename="paper.pdf"; filename*=UTF-8''${encodeURIComponent(name)}`,
      'X-Content-Type-Options': 'nosniff',
      'Cache-Control': 'private, no-store',
    },
  });
}

import type { StoredMedia } from '../question/authoring';

type Answer = { ok: true; media: StoredMedia } | { ok: false; message: string };

/** Sends a picture, sound or video to the bank. The server decides by its content what it is. */
export async function storeMedia(address: string, file: File): Promise<Answer> {
  try {
    const answer = await fetch(address, {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    const body = (await answer.json()) as StoredMedia & { problems?: { message: string }[] };
    if (answer.ok)
      return { ok: true, media: { hash: body.hash, kind: body.kind, width: body.width, height: body.height } };
    return { ok: false, message: body.problems?.[0]?.message ?? 'The file could not be stored.' };
  } catch {
    return { ok: false, message: 'The server could not be reached; the file has not been stored.' };
  }
}

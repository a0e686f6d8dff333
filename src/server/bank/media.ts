import { join } from 'node:path';
import { and, eq, ne, or, sql } from 'drizzle-orm';
import sharp from 'sharp';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { MediaKind } from '@/core/base/rich';
import { permits } from '@/core/people/policy';
import { attempt, courseBank, media, mediaBank, mediaVersion, membership, paperSlot } from '@/db/schema';
import { askedWithin } from '../house/askedWithin';
import { keepFile, keptFile } from '../house/keepFile';
import { bytes, command, contentHash, query } from '../house/useCase';
import { readOutside } from '../outside/readOutside';
import { mayWriteHere } from '../records/allowedNetwork';
import { toBank } from './toBank';

/** The most bytes of a file of each kind. */
const mediaLimits: Record<MediaKind, number> = { picture: 10_000_000, sound: 20_000_000, video: 50_000_000 };
export const largestMedia = Math.max(...Object.values(mediaLimits));

/** Pictures larger than this when unpacked are refused, whatever their file's size. */
const mostPixels = 40_000_000;

const kinds: Record<string, MediaKind> = {
  'image/png': 'picture',
  'image/jpeg': 'picture',
  'image/webp': 'picture',
  'image/gif': 'picture',
  'audio/mpeg': 'sound',
  'audio/ogg': 'sound',
  'audio/wav': 'sound',
  'video/mp4': 'video',
  'video/webm': 'video',
};

export type StoredMedia = { hash: string; kind: MediaKind; width: number | null; height: number | null };

/** Where files lie: in the data folder, under the hash of their content. */
export const mediaFolder = (): string => join(process.env.WUZZEN_DATA ?? 'data/demo', 'media');
export const mediaFile = (hash: string, folder = mediaFolder()): string => keptFile(folder, hash);

/**
 * Stores a picture, sound or video for a bank. What it is, its content decides, never its name. Pictures are unpacked
 * and packed anew, which proves them to be pictures and leaves out what else they carried, such as where a photograph
 * was taken; drawings (SVG) become pictures of dots, so that nothing in them can run.
 */
export const storeMedia = command({
  admits: toBank('bank.change'),
  takes: [bytes],
  logs: 'media.store',
  prepares: (_look, file) => (file.length === 0 ? refused('bad-input', 'The file is empty.') : readMedia(file)),
  does({ tx, bankId, record, context, ready }): Result<StoredMedia> {
    const { content, type, kind, width, height } = ready;
    const hash = keepFile(context.files ?? mediaFolder(), content);
    tx.insert(media)
      .values({ hash, type, kind, bytes: content.length, width, height, createdAt: context.now })
      .onConflictDoNothing()
      .run();
    tx.insert(mediaBank).values({ hash, bankId }).onConflictDoNothing().run();
    record({ subjectId: hash, detail: { type, bytes: content.length } });
    return ok({ hash, kind, width, height });
  },
});

type ReadMedia = { content: Uint8Array; type: string; kind: MediaKind; width: number | null; height: number | null };

async function readMedia(bytes: Uint8Array): Promise<Result<ReadMedia>> {
  if (looksLikeSvg(bytes)) return readPicture(bytes, 'image/svg+xml');
  const found = await readOutside('mediaType', bytes);
  if (!found.ok) return found;
  const type = found.value === 'audio/vnd.wave' ? 'audio/wav' : found.value?.split(';')[0];
  const kind = type ? kinds[type] : undefined;
  if (!type || !kind)
    return refused(
      'bad-input',
      'This is none of the files that can be kept: PNG, JPEG, WebP, GIF or SVG pictures, MP3, OGG or WAV sound, MP4 or WebM video.',
    );
  if (bytes.length > mediaLimits[kind])
    return refused('bad-input', `A ${kind} may have at most ${mediaLimits[kind] / 1_000_000} MB.`);
  if (kind === 'picture') return readPicture(bytes, type);
  return ok({ content: bytes, type, kind, width: null, height: null });
}

/** Whether a file begins as a drawing: with `<svg`, behind nothing but declarations and comments. */
export function looksLikeSvg(bytes: Uint8Array): boolean {
  const head = new TextDecoder()
    .decode(bytes.subarray(0, 4_000))
    .replace(/^\ufeff/, '')
    .toLowerCase();
  // What may stand before it, by how it begins and ends; a doctype with a part of its own in brackets ends behind them.
  const before = [
    ['<?xml', '?>'],
    ['<!--', '-->'],
    ['<!doctype', '>'],
  ] as const;
  let at = 0;
  for (;;) {
    while (at < head.length && (head[at] as string).trim() === '') at += 1;
    const piece = before.find(([begins]) => head.startsWith(begins, at));
    if (!piece) return /^<svg[\s>]/.test(head.slice(at, at + 5));
    const brackets = piece[1] === '>' ? head.indexOf('[', at) : -1;
    const from = brackets >= 0 && brackets < head.indexOf('>', at) ? head.indexOf(']', brackets) : at;
    const end = from < 0 ? -1 : head.indexOf(piece[1], from);
    if (end < 0) return false;
    at = end + piece[1].length;
  }
}

/** Whether a drawing declares entities of its own. */
function declaresEntities(bytes: Uint8Array): boolean {
  const text = new TextDecoder().decode(bytes).toLowerCase();
  if (text.includes('<!entity')) return true;
  const doctype = text.indexOf('<!doctype');
  if (doctype < 0) return false;
  const end = text.indexOf('>', doctype);
  return text.slice(doctype, end < 0 ? undefined : end).includes('[');
}

async function readPicture(bytes: Uint8Array, type: string): Promise<Result<ReadMedia>> {
  if (bytes.length > mediaLimits.picture) return refused('bad-input', 'A picture may have at most 10 MB.');
  const drawn = type === 'image/svg+xml';
  if (drawn && declaresEntities(bytes))
    return refused('bad-input', 'This drawing declares entities of its own, which cannot be kept.');
  try {
    const picture = sharp(bytes, {
      limitInputPixels: mostPixels,
      animated: type === 'image/gif',
      ...(drawn ? { density: 144 } : {}),
    })
      .rotate()
      .timeout({ seconds: 20 });
    const shown = drawn
      ? picture.resize({ width: 2_000, height: 2_000, fit: 'inside', withoutEnlargement: true })
      : picture;
    const packed =
      drawn || type === 'image/png'
        ? shown.png()
        : type === 'image/gif'
          ? shown.gif()
          : type === 'image/webp'
            ? shown.webp({ quality: 90 })
            : shown.jpeg({ quality: 90 });
    const { data, info } = await packed.toBuffer({ resolveWithObject: true });
    // A drawing is unpacked at twice its size, so that it is sharp on fine screens.
    const size = (dots: number | undefined) => (dots ? Math.max(1, Math.round(drawn ? dots / 1.5 : dots)) : null);
    return ok({
      content: data,
      type: drawn ? 'image/png' : type,
      kind: 'picture',
      width: size(info.width),
      height: size(info.pageHeight ?? info.height),
    });
  } catch {
    return refused('bad-input', 'This picture cannot be read: it is damaged, too large, or something else.');
  }
}

/**
 * A stored file for someone who may see a question that shows it: who works with its bank, or a student on whose running
 * paper it stands. To everyone else it does not exist.
 */
export const openMedia = query({
  admits: askedWithin('who works with its bank, and a student on whose running paper it stands'),
  takes: [contentHash],
  does({ context, actor: { userId } }, hash): Result<{ type: string; bytes: number }> {
    const row = context.db.select().from(media).where(eq(media.hash, hash)).get();
    if (!row) return notFound('file');
    const staff = context.db
      .select({ role: membership.role })
      .from(mediaBank)
      .innerJoin(courseBank, eq(courseBank.bankId, mediaBank.bankId))
      .innerJoin(membership, eq(membership.courseId, courseBank.courseId))
      .where(
        and(
          eq(mediaBank.hash, hash),
          eq(membership.userId, userId),
          ne(membership.role, 'student'),
          sql`${membership.removedAt} is null`,
        ),
      )
      .all();
    if (staff.some(({ role }) => permits('exam.see', role) || permits('marking.mark', role, true)))
      return ok({ type: row.type, bytes: row.bytes });
    const onPaper = context.db
      .selectDistinct({ attemptId: attempt.id })
      .from(attempt)
      .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
      .innerJoin(
        mediaVersion,
        or(eq(mediaVersion.versionId, paperSlot.versionId), eq(mediaVersion.versionId, paperSlot.passageVersionId)),
      )
      .where(and(eq(attempt.userId, userId), eq(attempt.state, 'running'), eq(mediaVersion.hash, hash)))
      .all();
    return onPaper.some(({ attemptId }) => mayWriteHere(context, attemptId))
      ? ok({ type: row.type, bytes: row.bytes })
      : notFound('file');
  },
});

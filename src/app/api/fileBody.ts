import { type FileHandle, open } from 'node:fs/promises';

const slice = 65_536;

/**
 * A file, or a part of it, as the body of a response: read as it is taken, and closed when it is broken off.
 *
 * @param last the last byte, from 0
 */
export function fileBody(file: string, last: number, first = 0): ReadableStream<Uint8Array> {
  let handle: FileHandle | null = null;
  let at = first;
  const close = async () => {
    const own = handle;
    handle = null;
    await own?.close();
  };
  return new ReadableStream({
    async pull(controller) {
      handle ??= await open(file);
      const size = Math.min(slice, last - at + 1);
      const { bytesRead, buffer } =
        size > 0 ? await handle.read(Buffer.alloc(size), 0, size, at) : { bytesRead: 0, buffer: null };
      if (!buffer || bytesRead === 0) {
        await close();
        controller.close();
        return;
      }
      at += bytesRead;
      controller.enqueue(buffer.subarray(0, bytesRead));
    },
    cancel: close,
  });
}

import { Unzip, UnzipInflate } from 'fflate';
import { ok, type Result, refused } from '@/core/base/result';

/** What an office document may unpack to, in bytes and in entries. Larger ones are refused before they are unpacked whole. */
export const unpackLimits = { bytes: 60_000_000, entries: 2_000, entry: 30_000_000 };

/**
 * Unpacks the named entries of a ZIP archive. Bytes are counted as they come out, so that a small archive that unpacks
 * to something huge is stopped in the middle.
 */
export function unpack(bytes: Uint8Array, wanted: (name: string) => boolean): Result<Map<string, Uint8Array>> {
  const found = new Map<string, Uint8Array[]>();
  let total = 0;
  let entries = 0;
  let problem: string | null = null;
  const stop = (message: string): never => {
    problem = message;
    throw new Error(message);
  };
  const reader = new Unzip((file) => {
    if (++entries > unpackLimits.entries) stop('This document holds too many parts.');
    if (!wanted(file.name)) return;
    const parts: Uint8Array[] = [];
    let own = 0;
    found.set(file.name, parts);
    file.ondata = (error, chunk) => {
      if (error) throw error;
      own += chunk.length;
      total += chunk.length;
      if (own > unpackLimits.entry || total > unpackLimits.bytes)
        stop('This document unpacks to far more than a document holds.');
      parts.push(chunk.slice());
    };
    file.start();
  });
  reader.register(UnzipInflate);
  try {
    // In slices, so that the limits are looked at while it unpacks.
    for (let at = 0; at < bytes.length; at += 65_536)
      reader.push(bytes.subarray(at, at + 65_536), at + 65_536 >= bytes.length);
  } catch {
    return refused('bad-input', problem ?? 'This document is damaged: it cannot be unpacked.');
  }
  return ok(new Map([...found].map(([name, parts]) => [name, Buffer.concat(parts)])));
}

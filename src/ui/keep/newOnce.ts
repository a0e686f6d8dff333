import { randomName, seededRandom } from '@/core/base/random';

let made = 0;

/** A name for a request that no other has. */
export function newOnce(): string {
  made += 1;
  const chance = globalThis.crypto?.randomUUID?.() ?? String(Math.random());
  return randomName(seededRandom(`${Date.now()}/${made}`, chance), 24);
}

import { chacha20 } from '@noble/ciphers/chacha.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plusFromState } from 'pure-rand/generator/xoroshiro128plus';

/** A stream of chance. It is always passed in, so that the same seed gives the same paper on every machine. */
export type Random = {
  /** A whole number in [0, below), every one equally likely. `below` is from 1 to 2³². */
  below(below: number): number;
};

const wordsInBlock = 16;
const nonce = new Uint8Array(12);

/**
 * The stream that belongs to a seed: ChaCha20 (RFC 8439) under the SHA-256 of seed and label, so that whoever has seen any
 * part of it can foretell no other. Different labels under one seed are unrelated streams: a paper draws its questions
 * from one and the order of its choices from another, so that neither disturbs the other. Numbers below a bound are
 * uniform by rejection.
 *
 * @param seed any text; secrecy is the matter of whoever makes it
 * @example seededRandom('a1b2', 'choices').below(6) === seededRandom('a1b2', 'choices').below(6) // true
 */
export function seededRandom(seed: string, label = ''): Random {
  let key: Uint8Array | null = null;
  let words = new DataView(new ArrayBuffer(0));
  let at = 0;
  let blocks = 0;
  const word = (): number => {
    if (at === words.byteLength) {
      // Most streams are short: the key is made when it is asked for, and one block before several.
      key ??= sha256(utf8ToBytes(`${seed}\u0000${label}`));
      const more = blocks === 0 ? 1 : 4;
      words = new DataView(chacha20(key, nonce, new Uint8Array(more * wordsInBlock * 4), undefined, blocks).buffer);
      blocks += more;
      at = 0;
    }
    const next = words.getUint32(at, true);
    at += 4;
    return next;
  };
  return {
    below(below) {
      if (below < 2) return 0;
      const most = 2 ** 32 - (2 ** 32 % below);
      let drawn = word();
      while (drawn >= most) drawn = word();
      return drawn % below;
    },
  };
}

/** One murmur3-style lane over the UTF-16 units of a text; four lanes with different starts make 128 bits. */
function lane(text: string, start: number): number {
  let h = start | 0;
  for (let i = 0; i < text.length; i++) {
    h = Math.imul(h ^ text.charCodeAt(i), 0x5bd1e995);
    h = (h << 13) | (h >>> 19);
  }
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) | 0;
}

/**
 * The same for what nobody may profit from foretelling: rehearsals of thousands of papers, tries of variables, samples. It is
 * several times as fast, and its state could be worked out from what it gave.
 */
export function quickRandom(seed: string, label = ''): Random {
  const text = `${seed}\u0000${label}`;
  const state = [lane(text, 0x9e3779b9), lane(text, 0x243f6a88), lane(text, 0xb7e15162), lane(text, 0x6a09e667) | 1];
  const generator = xoroshiro128plusFromState(state);
  return { below: (below) => (below < 2 ? 0 : uniformInt(generator, 0, below - 1)) };
}

/** What gives the streams of a paper. */
export type StreamOf = (seed: string, label: string) => Random;

/** A new array with the items in a uniformly random order (Fisher–Yates). */
export function shuffled<T>(items: readonly T[], random: Random): T[] {
  const copy = [...items];
  for (let i = copy.length - 1; i > 0; i--) {
    const j = random.below(i + 1);
    [copy[i], copy[j]] = [copy[j] as T, copy[i] as T];
  }
  return copy;
}

const letters = 'abcdefghjkmnpqrstuvwxyz23456789';

/** A short random name from letters and digits that cannot be mistaken for one another. */
export function randomName(random: Random, length: number): string {
  let name = '';
  for (let i = 0; i < length; i++) name += letters[random.below(letters.length)];
  return name;
}

import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plusFromState } from 'pure-rand/generator/xoroshiro128plus';

/** A stream of chance. It is always passed in, so that the same seed gives the same paper on every machine. */
export type Random = {
  /** A whole number in [0, below), every one equally likely. `below` is at least 1. */
  below(below: number): number;
};

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
 * The stream that belongs to a seed. Different labels under one seed are unrelated streams: a paper draws its
 * questions from one and the order of its choices from another, so that neither disturbs the other.
 *
 * @param seed any text; secrecy is the matter of whoever makes it
 * @example seededRandom('a1b2', 'choices').below(6) === seededRandom('a1b2', 'choices').below(6) // true
 */
export function seededRandom(seed: string, label = ''): Random {
  const text = `${seed}\u0000${label}`;
  const state = [lane(text, 0x9e3779b9), lane(text, 0x243f6a88), lane(text, 0xb7e15162), lane(text, 0x6a09e667) | 1];
  const generator = xoroshiro128plusFromState(state);
  return { below: (below) => (below < 2 ? 0 : uniformInt(generator, 0, below - 1)) };
}

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

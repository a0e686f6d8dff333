import { quickRandom } from '../base/random';
import { fold } from '../question/text/fold';

/** Two questions whose words are nearly the same, with their likeness in [0, 1]. */
type Likeness = { a: string; b: string; likeness: number };

/** From this likeness on two questions are shown as near-duplicates. */
export const duplicateThreshold = 0.8;

/** Words of three in a row, as 32-bit hashes, each once and in order. Shorter texts are one piece. */
export function shingles(text: string): Uint32Array {
  const words = fold(text.replace(/[\p{P}\p{Z}\s]+/gu, ' '), { case: true, accents: true, spacing: false })
    .split(' ')
    .filter(Boolean);
  const pieces = new Set<number>();
  const most = Math.max(1, words.length - 2);
  for (let i = 0; i < most; i++) pieces.add(hash(words.slice(i, i + 3).join(' ')));
  return Uint32Array.from(pieces).sort();
}

/** FNV-1a over UTF-16 units, finished by a murmur3 mix. */
function hash(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** Jaccard likeness of two sorted sets: shared pieces over all pieces. */
export function jaccard(a: Uint32Array, b: Uint32Array): number {
  let shared = 0;
  for (let i = 0, j = 0; i < a.length && j < b.length; ) {
    const [x, y] = [a[i] as number, b[j] as number];
    if (x === y) shared++;
    if (x <= y) i++;
    if (y <= x) j++;
  }
  const all = a.length + b.length - shared;
  return all === 0 ? 0 : shared / all;
}

const bands = 16;
const rowsPerBand = 5;

/**
 * Pairs of questions that are nearly the same: Jaccard likeness of their 3-word shingles of at least 0.8, the likest
 * first. Candidates come from a seeded MinHash signature of 16 bands of 5 rows, so that the work grows far slower than
 * with the square of the number of questions; each candidate is then compared exactly. A pair of likeness s is found
 * with probability 1 − (1 − s⁵)¹⁶: 0.998 at 0.8, above 0.9999 at 0.9.
 *
 * Source: Broder, "On the resemblance and containment of documents" (1997); Leskovec, Rajaraman & Ullman, *Mining of
 * Massive Datasets* (2014), section 3.4.
 *
 * @param questions their folded words; numerals are kept, so that questions that differ in a number differ
 */
export function nearDuplicates(questions: readonly { id: string; text: string }[]): Likeness[] {
  const random = quickRandom('near-duplicates');
  const draw = () => (random.below(0x10000) * 0x10000 + random.below(0x10000)) >>> 0;
  const seeds = Array.from({ length: bands * rowsPerBand }, () => ({ times: draw() | 1, plus: draw() }));
  const sets = questions.map(({ text }) => shingles(text));
  const times = Int32Array.from(seeds, (seed) => seed.times);
  const plus = Int32Array.from(seeds, (seed) => seed.plus);
  const buckets = Array.from({ length: bands }, () => new Map<number, number[]>());
  sets.forEach((set, at) => {
    if (set.length === 0) return;
    for (let band = 0; band < bands; band++) {
      // The rows of a band are mixed into one number: texts that only seem alike by it fall out when they are compared.
      let key = 0;
      for (let row = band * rowsPerBand; row < (band + 1) * rowsPerBand; row++) {
        let least = 0xffffffff;
        for (let i = 0; i < set.length; i++) {
          let mixed = Math.imul((set[i] as number) ^ (plus[row] as number), times[row] as number);
          mixed = Math.imul(mixed ^ (mixed >>> 15), 0x2c1b3c6d);
          mixed = (mixed ^ (mixed >>> 13)) >>> 0;
          if (mixed < least) least = mixed;
        }
        key = Math.imul(key ^ least, 0x01000193) ^ (key >>> 15);
      }
      const bucket = buckets[band]?.get(key);
      if (bucket) bucket.push(at);
      else buckets[band]?.set(key, [at]);
    }
  });
  const compared = new Set<number>();
  const found: Likeness[] = [];
  for (const bucket of buckets.flatMap((band) => [...band.values()])) {
    // Very many equal texts would make a square of pairs: each is then compared with the first few only.
    for (let i = 0; i < bucket.length; i++)
      for (let j = i + 1; j < Math.min(bucket.length, i + 1 + 50); j++) {
        const [a, b] = [bucket[i] as number, bucket[j] as number];
        const pair = a * questions.length + b;
        if (compared.has(pair)) continue;
        compared.add(pair);
        const likeness = jaccard(sets[a] as Uint32Array, sets[b] as Uint32Array);
        if (likeness >= duplicateThreshold)
          found.push({ a: (questions[a] as { id: string }).id, b: (questions[b] as { id: string }).id, likeness });
      }
  }
  return found.sort((x, y) => y.likeness - x.likeness || (x.a < y.a ? -1 : 1));
}

import { quickRandom, randomName } from '../base/random';

/** The short code on a receipt. The instructor sees the same one beside the attempt. @example receiptCode('a1b2').length // 9 */
export function receiptCode(seed: string): string {
  const name = randomName(quickRandom(seed, 'receipt'), 8);
  return `${name.slice(0, 4)}-${name.slice(4)}`;
}

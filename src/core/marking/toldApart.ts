/** So many words of the beginning are always shown: they tell apart those that share an end. */
const wordsFirst = 3;
/** So many words before the first one that differs are shown with it. */
const wordsBefore = 1;

/**
 * Texts as a list shows them whose lines are cut off: where several begin alike, each with its first words, and then from
 * shortly before the first word by which it differs from the one it shares most of its beginning with.
 *
 * @returns the texts in their order; what is left out of one stands as “…”
 * @example toldApart(['go slow and then go left', 'go slow and then go right', 'stop'])[1] // 'go slow and … go right'
 */
export function toldApart(texts: readonly string[]): string[] {
  const words = texts.map((text) => text.split(/\s+/u).filter(Boolean));
  // In the order of their words, whoever shares most of a beginning stands beside it.
  const order = words.map((_, i) => i).sort((a, b) => compare(words[a] as string[], words[b] as string[]));
  const shared = texts.map(() => 0);
  order.forEach((at, place) => {
    const next = order[place + 1];
    if (next === undefined) return;
    const [one, other] = [words[at] as string[], words[next] as string[]];
    let same = 0;
    while (same < Math.min(one.length, other.length) && one[same] === other[same]) same += 1;
    if (same === one.length && same === other.length) return;
    shared[at] = Math.max(shared[at] ?? 0, same);
    shared[next] = Math.max(shared[next] ?? 0, same);
  });
  return texts.map((text, i) => {
    const own = words[i] as string[];
    // One that ends where others go on is told by its end.
    const from = Math.min(shared[i] ?? 0, own.length - wordsBefore) - wordsBefore;
    if (from <= wordsFirst) return text;
    return [...own.slice(0, wordsFirst), '…', ...own.slice(from)].join(' ');
  });
}

function compare(a: readonly string[], b: readonly string[]): number {
  for (let i = 0; i < Math.min(a.length, b.length); i++)
    if (a[i] !== b[i]) return (a[i] as string) < (b[i] as string) ? -1 : 1;
  return a.length - b.length;
}

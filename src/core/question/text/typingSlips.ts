const digit = /\p{N}/u;

/**
 * The number of typing slips between two texts: the optimal string alignment distance over code points, where a slip
 * inserts, deletes or replaces one character or swaps two neighbours. A slip never touches a digit: texts that differ in
 * their digits are infinitely far apart.
 *
 * Source: the restricted Damerau–Levenshtein distance (Boytsov, "Indexing methods for approximate dictionary
 * searching", ACM JEA 16, 2011, section 2).
 *
 * @param most what is of interest: a greater distance is given as Infinity, and found without the whole table
 * @example typingSlips('starbaord', 'starboard', 2) // 1
 */
export function typingSlips(a: string, b: string, most: number): number {
  const from = [...a];
  const to = [...b];
  if (Math.abs(from.length - to.length) > most) return Number.POSITIVE_INFINITY;
  const cost = (...touched: (string | undefined)[]) =>
    touched.some((one) => one !== undefined && digit.test(one)) ? Number.POSITIVE_INFINITY : 1;
  let before: number[] = [];
  let last = [0];
  for (const one of to) last.push((last[last.length - 1] as number) + cost(one));
  for (let i = 1; i <= from.length; i++) {
    const x = from[i - 1] as string;
    const row = [(last[0] as number) + cost(x)];
    let least = row[0] as number;
    for (let j = 1; j <= to.length; j++) {
      const y = to[j - 1] as string;
      let best = (last[j - 1] as number) + (x === y ? 0 : cost(x, y));
      best = Math.min(best, (last[j] as number) + cost(x), (row[j - 1] as number) + cost(y));
      if (i > 1 && j > 1 && x !== y && x === to[j - 2] && y === from[i - 2])
        best = Math.min(best, (before[j - 2] as number) + cost(x, y));
      row.push(best);
      least = Math.min(least, best);
    }
    if (least > most && i > 1) {
      const two = Math.min(...last);
      if (two > most) return Number.POSITIVE_INFINITY;
    }
    before = last;
    last = row;
  }
  const distance = last[to.length] as number;
  return distance > most ? Number.POSITIVE_INFINITY : distance;
}

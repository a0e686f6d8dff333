/**
 * The lines of a text that stay behind when some of the questions read from it are taken: those of the others, from
 * their first line to the line before the next question.
 *
 * @param items the questions in the order of the text, each with its first line, counted from 1
 * @returns the text that is left; empty when everything was taken
 */
export function leftOver(text: string, items: readonly { at: number; taken: boolean }[]): string {
  const lines = text.split('\n');
  return items
    .flatMap(({ at, taken }, i) => (taken ? [] : lines.slice(at - 1, (items[i + 1]?.at ?? lines.length + 1) - 1)))
    .join('\n')
    .trim();
}

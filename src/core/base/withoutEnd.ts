/** A text up to the last sign that is none of these. @example withoutEnd('2.500', '0') // '2.5' */
export function withoutEnd(text: string, signs: string): string {
  let end = text.length;
  while (end > 0 && signs.includes(text[end - 1] as string)) end -= 1;
  return text.slice(0, end);
}

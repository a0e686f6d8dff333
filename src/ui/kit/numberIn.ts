/**
 * The number a person typed, with a point or a comma and any of the signs that look like a minus; not a number where nothing
 * or something else was typed.
 */
export const numberIn = (text: string): number =>
  text.trim() === ''
    ? Number.NaN
    : Number(
        text
          .trim()
          .replace(',', '.')
          .replace(/^[−–]\s?/, '-'),
      );

/** Encodings in which texts come, by their names in the WHATWG Encoding Standard, with what people call them. */
export const encodings = {
  'utf-8': 'Unicode (UTF-8)',
  'utf-16le': 'Unicode (UTF-16)',
  'windows-1252': 'Western European (Windows)',
  'windows-1250': 'Central European (Windows)',
  'windows-1251': 'Cyrillic (Windows)',
  'windows-1253': 'Greek (Windows)',
  'windows-1254': 'Turkish (Windows)',
  'windows-1257': 'Baltic (Windows)',
  macintosh: 'Western European (Mac)',
} as const;
/** The name of an encoding. */
export type Encoding = keyof typeof encodings;

/** A text out of bytes, and what its letters were taken for. */
type Decoded = { text: string; encoding: Encoding; isGuess: boolean };

/** Signs 0x80 to 0x9f of Windows-1252, which some runtimes leave as the control signs of ISO 8859-1. */
const signsOf1252 = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

function decode(bytes: Uint8Array, encoding: string): string {
  const text = new TextDecoder(encoding).decode(bytes);
  if (encoding !== 'windows-1252') return text;
  return text.replace(/[\u0080-\u009f]/g, (sign) => signsOf1252.charAt(sign.charCodeAt(0) - 0x80));
}

/**
 * The text of a file: in the encoding that its first bytes tell; else in UTF-8 if it is; else in that of the Windows systems
 * of Western Europe, which is a guess that somebody has to look at.
 *
 * @param named the encoding that a person named
 * @returns null where this is no text
 */
export function decodedText(bytes: Uint8Array, named: Encoding | null = null): Decoded | null {
  const isWide = (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff);
  const read = (encoding: string) => decode(bytes, encoding);
  if (named) return { text: read(named), encoding: named, isGuess: true };
  if (isWide) return { text: read(bytes[0] === 0xff ? 'utf-16le' : 'utf-16be'), encoding: 'utf-16le', isGuess: false };
  if (bytes.includes(0)) return null;
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'utf-8', isGuess: false };
  } catch {
    return { text: read('windows-1252'), encoding: 'windows-1252', isGuess: true };
  }
}

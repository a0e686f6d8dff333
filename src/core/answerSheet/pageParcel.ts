/** What was found on a page, as it is sent. */
export type FoundOnPage = {
  source: string;
  problem: 'no-sheet' | 'corner-missing' | 'unreadable' | null;
  code: string | null;
  /** How dark each box is, in percent. */
  darkness: number[] | null;
};

const lengthBytes = 4;
/** No page has so many boxes that what was found on it would be longer. */
const longestFound = 200_000;

/** Packs what was found on a page together with its picture: the length of the first as four bytes, itself, the picture. */
export function packPage(found: FoundOnPage, picture: Uint8Array): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(found));
  const parcel = new Uint8Array(lengthBytes + text.length + picture.length);
  new DataView(parcel.buffer).setUint32(0, text.length);
  parcel.set(text, lengthBytes);
  parcel.set(picture, lengthBytes + text.length);
  return parcel;
}

/** Unpacks a parcel; null where it is none. What was found is not checked here. */
export function unpackPage(parcel: Uint8Array): { found: unknown; picture: Uint8Array } | null {
  if (parcel.length < lengthBytes) return null;
  const length = new DataView(parcel.buffer, parcel.byteOffset).getUint32(0);
  if (length > longestFound || lengthBytes + length > parcel.length) return null;
  try {
    const found: unknown = JSON.parse(new TextDecoder().decode(parcel.subarray(lengthBytes, lengthBytes + length)));
    return { found, picture: parcel.subarray(lengthBytes + length) };
  } catch {
    return null;
  }
}

/** What the reader of PDFs takes pieces of a file from. */
type Ranges = {
  onDataRange: (begin: number, chunk: Uint8Array | null) => void;
  requestDataRange: (begin: number, end: number) => void;
};

/** So many bytes are fetched at once. */
const piece = 1 << 18;

/**
 * What a PDF is opened with so that of a large file only those pieces are fetched that its pages need. What cannot be
 * fetched is as if nothing stood there: the page that needs it cannot be read, and the others can.
 *
 * @param Transport the class `PDFDataRangeTransport` of the reader
 * @param size of the file, in bytes
 * @param fetch the bytes from a place up to another, without that one
 */
export function pdfInPieces<Given extends Ranges>(
  Transport: new (size: number, begins: null) => Given,
  size: number,
  fetch: (begin: number, end: number) => Promise<Uint8Array>,
): { range: Given; length: number; rangeChunkSize: number; disableAutoFetch: true; disableStream: true } {
  const range = new Transport(size, null);
  range.requestDataRange = (begin, end) => {
    fetch(begin, end)
      .catch(() => new Uint8Array(end - begin))
      .then((chunk) => range.onDataRange(begin, chunk));
  };
  return { range, length: size, rangeChunkSize: piece, disableAutoFetch: true, disableStream: true };
}

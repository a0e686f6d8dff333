import sharp from 'sharp';

/** How the picture of a page is packed in a PDF: as copiers do, in colours or in black and white (ISO 32000, 7.4). */
export type Packing = 'DCTDecode' | 'CCITTFaxDecode' | 'JBIG2Decode' | 'JPXDecode';

const encoder = new TextEncoder();
const joined = (parts: readonly Uint8Array[]): Uint8Array => new Uint8Array(Buffer.concat(parts));

/** Big-endian numbers of four bytes. */
function words(...numbers: number[]): Uint8Array {
  const bytes = new Uint8Array(numbers.length * 4);
  numbers.forEach((number, i) => {
    new DataView(bytes.buffer).setUint32(i * 4, number);
  });
  return bytes;
}

/** A picture in black and white as one strip of ITU-T T.6, with its size. */
async function faxed(picture: Uint8Array): Promise<{ width: number; height: number; data: Uint8Array }> {
  // A strip says 0 for white.
  const grey = sharp(picture).greyscale().threshold(150);
  const { width = 0, height = 0 } = await sharp(picture).metadata();
  // A tile as large as the picture, whose sides are multiples of 16, is one strip.
  const [wide, high] = [Math.ceil(width / 16) * 16, Math.ceil(height / 16) * 16];
  const tiff = await grey
    .extend({ right: wide - width, bottom: high - height, background: '#fff' })
    .negate()
    .toColourspace('b-w')
    .tiff({ compression: 'ccittfax4', bitdepth: 1, tile: true, tileWidth: wide, tileHeight: high })
    .toBuffer();
  const view = new DataView(tiff.buffer, tiff.byteOffset, tiff.byteLength);
  const first = view.getUint32(4, true);
  const tags = new Map<number, number>();
  for (let i = 0; i < view.getUint16(first, true); i++) {
    const at = first + 2 + i * 12;
    tags.set(view.getUint16(at, true), view.getUint32(at + 8, true));
  }
  const from = tags.get(324) ?? 0;
  return { width: wide, height: high, data: new Uint8Array(tiff.subarray(from, from + (tags.get(325) ?? 0))) };
}

/** The same strip as a page of ITU-T T.88: what its page is, and one region that is packed as a fax. */
function asJbig2({ width, height, data }: Awaited<ReturnType<typeof faxed>>): Uint8Array {
  const segment = (number: number, type: number, content: Uint8Array) =>
    joined([words(number), new Uint8Array([type, 0, 1]), words(content.length), content]);
  return joined([
    segment(0, 48, joined([words(width, height, 0, 0), new Uint8Array([0, 0, 0])])),
    segment(1, 38, joined([words(width, height, 0, 0), new Uint8Array([0, 1]), data])),
  ]);
}

/**
 * A PDF of one page that is one picture, packed as a copier may pack it.
 *
 * @param picture whatever can be decoded; for `JPXDecode` what is packed so already, with its size
 */
export async function packedPdf(
  picture: Uint8Array,
  packing: Packing,
  size?: { width: number; height: number },
): Promise<Uint8Array> {
  const strip = packing === 'CCITTFaxDecode' || packing === 'JBIG2Decode' ? await faxed(picture) : null;
  const { width = 0, height = 0 } = strip ?? size ?? (await sharp(picture).metadata());
  const data =
    packing === 'JBIG2Decode' && strip
      ? asJbig2(strip)
      : (strip?.data ?? (packing === 'JPXDecode' ? picture : new Uint8Array(await sharp(picture).jpeg().toBuffer())));
  const bits = strip ? 1 : 8;
  const more =
    packing === 'CCITTFaxDecode' ? `/DecodeParms << /K -1 /Columns ${width} /Rows ${height} /BlackIs1 false >>` : '';
  const drawn = `q 595 0 0 842 0 0 cm /P Do Q`;
  const objects: Uint8Array[] = [
    encoder.encode('<< /Type /Catalog /Pages 2 0 R >>'),
    encoder.encode('<< /Type /Pages /Kids [3 0 R] /Count 1 >>'),
    encoder.encode(
      '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Resources << /XObject << /P 4 0 R >> >> /Contents 5 0 R >>',
    ),
    joined([
      encoder.encode(
        `<< /Type /XObject /Subtype /Image /Width ${width} /Height ${height} /ColorSpace /DeviceGray /BitsPerComponent ${bits} /Filter /${packing} ${more} /Length ${data.length} >>\nstream\n`,
      ),
      data,
      encoder.encode('\nendstream'),
    ]),
    encoder.encode(`<< /Length ${drawn.length} >>\nstream\n${drawn}\nendstream`),
  ];
  const parts: Uint8Array[] = [encoder.encode('%PDF-1.7\n')];
  const places: number[] = [];
  let at = parts[0]?.length ?? 0;
  objects.forEach((object, i) => {
    const whole = joined([encoder.encode(`${i + 1} 0 obj\n`), object, encoder.encode('\nendobj\n')]);
    places.push(at);
    parts.push(whole);
    at += whole.length;
  });
  const table = places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('');
  parts.push(
    encoder.encode(
      `xref\n0 ${places.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${places.length + 1} /Root 1 0 R >>\nstartxref\n${at}\n%%EOF\n`,
    ),
  );
  return joined(parts);
}

/** A PDF that asks for a password: its key fits none (ISO 32000-1, 7.6). */
export function lockedPdf(): Uint8Array {
  const objects = [
    '<</Type/Catalog/Pages 2 0 R>>',
    '<</Type/Pages/Kids[3 0 R]/Count 1>>',
    '<</Type/Page/Parent 2 0 R/MediaBox[0 0 99 99]>>',
    `<</Filter/Standard/V 1/R 2/P -4/O<${'41'.repeat(32)}>/U<${'42'.repeat(32)}>>>`,
  ];
  let text = '%PDF-1.4\n';
  const places = objects.map((object, i) => {
    const place = text.length;
    text += `${i + 1} 0 obj${object}endobj\n`;
    return place;
  });
  const table = places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('');
  const trailer = `trailer<</Size 5/Root 1 0 R/Encrypt 4 0 R/ID[<00><00>]>>\nstartxref\n${text.length}\n%%EOF`;
  return new TextEncoder().encode(`${text}xref\n0 5\n0000000000 65535 f \n${table}${trailer}`);
}

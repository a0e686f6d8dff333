import { PDFDocument } from 'pdf-lib';

/** Puts documents one behind the other, each with its own pages; a single one stays as it is. */
export async function joinPdf(printed: readonly Uint8Array[], title: string): Promise<Uint8Array> {
  if (printed.length === 1) return printed[0] as Uint8Array;
  const all = await PDFDocument.create();
  for (const one of printed) {
    const from = await PDFDocument.load(one);
    for (const page of await all.copyPages(from, from.getPageIndices())) all.addPage(page);
  }
  all.setTitle(title);
  return all.save();
}

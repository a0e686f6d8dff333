import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** What a printed file says of itself and what stands on its pages, in reading order. */
export type ReadPdf = { title: string; language: string; isTagged: boolean; standard: string; pages: string[] };

/** Reads a printed file back. */
export async function readPdf(bytes: Uint8Array): Promise<ReadPdf> {
  const opening = getDocument({ data: bytes.slice(), isEvalSupported: false, verbosity: 0 });
  try {
    const pdf = await opening.promise;
    const { info, metadata } = (await pdf.getMetadata()) as unknown as {
      info: Record<string, string>;
      metadata: { getRaw?: () => string } | null;
    };
    const pages: string[] = [];
    for (let n = 1; n <= pdf.numPages; n++) {
      const { items } = await (await pdf.getPage(n)).getTextContent();
      pages.push(items.map((item) => ('str' in item ? `${item.str}${item.hasEOL ? '\n' : ''}` : '')).join(''));
    }
    return {
      title: info.Title ?? '',
      language: info.Language ?? '',
      isTagged: (await pdf.getMarkInfo())?.Marked === true,
      standard: /pdfuaid:part>?(?:="|)?(\d)/.test(metadata?.getRaw?.() ?? '') ? 'UA-1' : '',
      pages,
    };
  } finally {
    await opening.destroy();
  }
}

/** A PDF that the browser shows by itself. */
export const pdfReply = (bytes: Uint8Array, fileName: string): Response =>
  new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'Content-Type': 'application/pdf',
      'Content-Disposition': `inline; filename="paper.pdf"; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'Cache-Control': 'no-store',
    },
  });

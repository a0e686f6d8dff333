const archive = { type: 'application/zip', shown: 'attachment' };
const pdf = { type: 'application/pdf', shown: 'inline' };

/**
 * What was printed: a PDF is shown by the browser itself, an archive is kept.
 *
 * @param fileName with its ending
 */
export function printReply(bytes: Uint8Array, fileName: string): Response {
  const { type, shown } = fileName.endsWith('.zip') ? archive : pdf;
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'Content-Type': type,
      'Content-Disposition': `${shown}; filename="print.${fileName.endsWith('.zip') ? 'zip' : 'pdf'}"; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'Cache-Control': 'no-store',
    },
  });
}

/** Kinds of files that an author can allow. Each is recognised by its content, not by its name. */
export const fileKinds = ['pdf', 'picture', 'text', 'document', 'spreadsheet', 'sound'] as const;
/** One kind of file that an author can allow. */
export type FileKind = (typeof fileKinds)[number];

/** What each kind of file is called, with the formats that belong to it. */
export const fileKindNames: Record<FileKind, string> = {
  pdf: 'PDF',
  picture: 'picture (PNG, JPEG, WebP)',
  text: 'plain text',
  document: 'word processor document (DOCX, ODT)',
  spreadsheet: 'spreadsheet (XLSX, ODS)',
  sound: 'sound (MP3, OGG, WAV)',
};

import writeExcelFile from 'write-excel-file/node';

/** A table as a spreadsheet. Cells are texts and numbers, never formulas, so that nothing in them is run. */
export async function writeXlsx(
  name: string,
  table: readonly (readonly (string | number | null)[])[],
): Promise<Uint8Array> {
  const [head = [], ...rows] = table;
  const book = writeExcelFile(
    [head.map((value) => (value === null ? null : { value, fontWeight: 'bold' })), ...rows.map((row) => [...row])],
    {
      sheet: name.replace(/[[\]*?/\\:]/g, ' ').slice(0, 31) || 'Sheet',
      stickyRowsCount: 1,
      columns: head.map(() => ({ width: 24 })),
    },
  );
  return new Uint8Array(await book.toBuffer());
}

// biome-ignore-all lint/suspicious/noArrayIndexKey: a page is printed once; nothing on it changes its order
import { Document, Page, renderToBuffer, StyleSheet, Text, View } from '@react-pdf/renderer';
import { zipSync } from 'fflate';
import { palette } from '../core/base/palette';
import type { PrintedPicture, PrintOrder } from '../core/exam/printedPaper';
import type { SheetBlock, SheetDocument } from '../core/gradebook/sheetDocument';
import { registerFonts, sans, serif } from './fonts';
import { joinPdf } from './joinPdf';
import { Pictures, RichPdf } from './RichPdf';
import { sheetDocx } from './sheetDocx';
import { Words } from './Words';

const styles = StyleSheet.create({
  page: { paddingTop: 48, paddingBottom: 54, paddingHorizontal: 54, color: palette.ink, fontSize: 11 },
  head: { borderBottom: `0.8pt solid ${palette.ink}`, paddingBottom: 6, marginBottom: 8 },
  cell: { paddingVertical: 3, paddingHorizontal: 4, fontSize: 10 },
  foot: {
    position: 'absolute',
    bottom: 26,
    left: 54,
    right: 54,
    fontSize: 9,
    color: palette.ink2,
    flexDirection: 'row',
    justifyContent: 'space-between',
  },
});

/** Lines of running text. Said of a whole page, the library sets boxes that a page's end cuts at no place at all. */
const body = { lineHeight: 1.4 };

function Block({ block }: { block: SheetBlock }) {
  switch (block.kind) {
    case 'heading':
      return (
        <View style={{ marginTop: 14, marginBottom: 2 }}>
          <Words style={{ fontSize: 13, fontWeight: 600 }}>{block.text}</Words>
        </View>
      );
    case 'text':
      return (
        <View style={{ marginTop: 5 }}>
          <Words style={block.quiet ? { ...body, color: palette.ink2, fontSize: 10 } : { ...body, fontSize: 11 }}>
            {block.text}
          </Words>
        </View>
      );
    case 'result':
      return (
        <View style={{ marginTop: 8, flexDirection: 'row', alignItems: 'baseline' }}>
          <Words style={{ fontSize: 22, fontWeight: 600, marginRight: 14, lineHeight: 1.2 }}>{block.text}</Words>
          <Words style={{ fontSize: 14 }}>{block.note}</Words>
        </View>
      );
    case 'table':
      return <Table block={block} />;
    case 'question':
      return (
        <View style={{ marginTop: 10, borderTop: `0.5pt solid ${palette.edge}`, paddingTop: 5 }}>
          <View style={{ flexDirection: 'row' }}>
            <Text style={{ width: 24, fontWeight: 600 }}>{block.number}</Text>
            <View style={{ flex: 1 }}>
              <RichPdf rich={block.stem} size={10.5} />
            </View>
            <View style={{ width: 92, alignItems: 'flex-end' }}>
              <Words face="sans" style={{ fontSize: 9.5 }}>
                {block.points}
              </Words>
              <Words face="sans" style={{ fontSize: 9.5, color: palette.ink2 }}>
                {block.verdict}
              </Words>
            </View>
          </View>
          <View style={{ marginLeft: 24, marginTop: 3 }}>
            <Words style={{ ...body, fontSize: 10.5 }}>{`Your answer: ${block.answer || 'none'}`}</Words>
            {block.why !== null && <Words style={{ ...body, fontSize: 10.5 }}>{block.why}</Words>}
            {block.right !== null && <Words style={{ ...body, fontSize: 10.5 }}>{`Right: ${block.right}`}</Words>}
            {block.solution && <RichPdf rich={block.solution} size={10} />}
            {block.comment !== '' && (
              <View style={{ marginTop: 3, borderLeft: `2pt solid ${palette.ink}`, paddingLeft: 6 }}>
                <Words style={{ ...body, fontSize: 10.5 }}>{block.comment}</Words>
              </View>
            )}
          </View>
        </View>
      );
    case 'lines':
      return (
        <View style={{ marginTop: 14 }} wrap={false}>
          <Words style={{ fontSize: 11, fontWeight: 600 }}>{block.label}</Words>
          {Array.from({ length: block.count }, (_, i) => (
            <View key={i} style={{ height: 22, borderBottom: `0.5pt solid ${palette.edge}` }} />
          ))}
        </View>
      );
  }
}

function Table({ block: { head, rows, right } }: { block: Extract<SheetBlock, { kind: 'table' }> }) {
  // Columns of numbers are narrow; the words beside them share what is left.
  const style = (i: number) => ({
    ...(right.includes(i) ? { width: 62, textAlign: 'right' as const } : { flex: 1 }),
    ...styles.cell,
  });
  const headRow = -1;
  const row = (cells: string[], bold: boolean, key: number) => (
    <View
      key={key}
      style={{ flexDirection: 'row', borderBottom: `0.5pt solid ${palette.edge}`, marginTop: key === headRow ? 8 : 0 }}
      wrap={false}
    >
      {cells.map((cell, i) => (
        <View key={i} style={style(i)}>
          <Words face="sans" style={{ fontSize: 10, fontWeight: bold ? 600 : 400 }}>
            {cell}
          </Words>
        </View>
      ))}
    </View>
  );
  return (
    <>
      {row(head, true, headRow)}
      {rows.map((cells, i) => row(cells, false, i))}
    </>
  );
}

const SheetPdf = ({ sheet, pictures }: { sheet: SheetDocument; pictures: Record<string, PrintedPicture> }) => (
  <Pictures.Provider value={pictures}>
    <Document title={sheet.title} creator="Wuzzen" producer="Wuzzen">
      <Page size="A4" style={[styles.page, { fontFamily: serif }]}>
        <View style={[styles.head, { fontFamily: sans }]}>
          <Words style={{ fontSize: 18, fontWeight: 600, lineHeight: 1.2 }}>{sheet.title}</Words>
          <Words face="sans" style={{ fontSize: 10, color: palette.ink2, marginTop: 4 }}>
            {sheet.note}
          </Words>
        </View>
        {sheet.blocks.map((block, i) => (
          <Block key={i} block={block} />
        ))}
        <View style={[styles.foot, { fontFamily: sans }]} fixed>
          <Words face="sans">{sheet.foot}</Words>
          <Text render={({ pageNumber, totalPages }) => `${pageNumber} of ${totalPages}`} />
        </View>
      </Page>
    </Document>
  </Pictures.Provider>
);

/**
 * Prints sheets: each into a file of its own name, all in one archive; or one behind the other into one PDF, each
 * beginning on a page of its own with its own page numbers.
 *
 * @param onProgress told how many sheets are printed
 */
export async function printSheets(
  { sheets, format, into, pictures }: Extract<PrintOrder, { sheets: unknown }>,
  onProgress: (done: number) => void = () => {},
): Promise<Uint8Array> {
  if (format === 'pdf') await registerFonts(JSON.stringify(sheets));
  const printed: Uint8Array[] = [];
  for (const sheet of sheets) {
    printed.push(
      format === 'pdf'
        ? new Uint8Array(await renderToBuffer(<SheetPdf sheet={sheet} pictures={pictures} />))
        : await sheetDocx(sheet),
    );
    onProgress(printed.length);
  }
  if (into === 'one-pdf') return joinPdf(printed, sheets[0]?.title ?? '');
  // PDF and DOCX are packed already: they are only laid side by side.
  return zipSync(Object.fromEntries(sheets.map((sheet, i) => [sheet.fileName, printed[i] as Uint8Array])), {
    level: 0,
  });
}

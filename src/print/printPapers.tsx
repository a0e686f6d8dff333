import { Document, Page, renderToBuffer, StyleSheet, Text, View } from '@react-pdf/renderer';
import { palette } from '../core/base/palette';
import { isEmptyRich } from '../core/base/rich';
import type { PrintedPaper, PrintedPicture, PrintOrder } from '../core/exam/printedPaper';
import { registerFonts, sans, serif } from './fonts';
import { joinPdf } from './joinPdf';
import { QuestionPdf } from './QuestionPdf';
import { Pictures, RichPdf } from './RichPdf';
import { Words } from './Words';

const styles = StyleSheet.create({
  page: { paddingTop: 48, paddingBottom: 54, paddingHorizontal: 54, color: palette.ink },
  head: { borderBottom: `0.8pt solid ${palette.ink}`, paddingBottom: 6, marginBottom: 8 },
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

function PaperPdf({ paper, pictures }: { paper: PrintedPaper; pictures: Record<string, PrintedPicture> }) {
  return (
    <Pictures.Provider value={pictures}>
      <Document title={paper.title} creator="Wuzzen" producer="Wuzzen">
        <Page size="A4" style={[styles.page, { fontFamily: serif }]}>
          <View style={[styles.head, { fontFamily: sans }]}>
            <Words
              style={{ fontSize: 18, fontWeight: 600 }}
            >{`${paper.title}${paper.withKey ? ' – with key' : ''}`}</Words>
            <View style={{ flexDirection: 'row', justifyContent: 'space-between', marginTop: 6, fontSize: 10 }}>
              <Words face="sans">{paper.student ?? 'Name: ______________________________'}</Words>
              <Text>{paper.points}</Text>
              <Text>{paper.code}</Text>
            </View>
          </View>
          {!isEmptyRich(paper.instructions) && <RichPdf rich={paper.instructions} size={10.5} />}
          {paper.slots.map((slot) => (
            <View key={slot.number}>
              {slot.heading && (
                <View style={{ marginTop: 14 }} minPresenceAhead={80}>
                  <Words style={{ fontSize: 14, fontWeight: 600 }}>{slot.heading}</Words>
                </View>
              )}
              {slot.choose && <Text style={{ fontSize: 10, fontFamily: sans, marginTop: 2 }}>{slot.choose}</Text>}
              {slot.passage && (
                <View style={{ border: `0.5pt solid ${palette.edge}`, padding: 8, marginTop: 10 }}>
                  <RichPdf rich={slot.passage} />
                </View>
              )}
              <QuestionPdf slot={slot} />
            </View>
          ))}
          <View style={[styles.foot, { fontFamily: sans }]} fixed>
            <Words face="sans">{[paper.title, paper.student, paper.code].filter(Boolean).join(' · ')}</Words>
            <Text render={({ pageNumber, totalPages }) => `${pageNumber} of ${totalPages}`} />
          </View>
        </Page>
      </Document>
    </Pictures.Provider>
  );
}

/**
 * Prints papers into one PDF, each beginning on a page of its own with its own page numbers.
 *
 * @param onProgress told how many papers are printed
 */
export async function printPapers(
  { papers, pictures }: Extract<PrintOrder, { papers: unknown }>,
  onProgress: (done: number) => void = () => {},
): Promise<Uint8Array> {
  await registerFonts(JSON.stringify(papers));
  const printed: Uint8Array[] = [];
  for (const paper of papers) {
    printed.push(await renderToBuffer(<PaperPdf paper={paper} pictures={pictures} />));
    onProgress(printed.length);
  }
  return joinPdf(printed, papers[0]?.title ?? '');
}

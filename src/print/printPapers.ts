import { isEmptyRich, richFromText } from '../core/base/rich';
import type { PrintedPaper, PrintedSlot } from '../core/exam/printedPaper';
import type { PrintOrder } from '../core/print/printOrder';
import { answerRoom, runsOver } from './answerRooms';
import { type PrintBlock, type PrintDocument, words } from './printNodes';
import { richNodes, type Setting } from './richNodes';
import { typesetFiles } from './typesetPdf';

/** Long questions and the lines of written answers may run over a page's end; all others stand on one page. */
const mayBreak = ({ view, key }: PrintedSlot): boolean =>
  runsOver(view.type) || JSON.stringify([view, key]).length > 6_000;

/** One question with room for its answer. */
function questionNodes(slot: PrintedSlot, setting: Setting): PrintBlock {
  const { view, key } = slot;
  const numbers = new Map('gaps' in view ? view.gaps.map((gap, i) => [gap.id, i + 1]) : []);
  const room = answerRoom(view, key?.right ?? [], setting);
  return {
    k: 'stack',
    above: 16,
    keep: !mayBreak(slot),
    c: [
      {
        k: 'beside',
        left: 24,
        right: 70,
        before: words(String(slot.number), { strong: true }),
        behind: words(slot.points, { size: 9, quiet: true, align: 'right' }),
        c: richNodes(view.stem, { ...setting, gap: (id) => ` (${numbers.get(id)}) ________ ` }),
      },
      {
        k: 'stack',
        above: 10,
        left: 24,
        right: 70,
        c: [
          ...(slot.required ? [words('This question has to be answered.', { size: 9, quiet: true })] : []),
          ...room,
          ...(key
            ? [
                {
                  k: 'stack' as const,
                  above: 9,
                  edge: 'bar' as const,
                  c: [
                    ...(key.text === '' ? [] : richNodes(richFromText(`Right: ${key.text}`), setting, { size: 10 })),
                    ...(key.solution ? richNodes(key.solution, setting, { size: 10 }) : []),
                  ],
                },
              ]
            : []),
        ],
      },
    ],
  };
}

/** A paper as what stands on its pages. */
function paperDocument(paper: PrintedPaper, setting: Setting): PrintDocument {
  return {
    title: paper.title,
    foot: [paper.title, paper.student, paper.code].filter(Boolean).join(' · '),
    c: [
      {
        k: 'stack',
        edge: 'below',
        c: [
          { k: 'h', level: 1, s: `${paper.title}${paper.withKey ? ' – with key' : ''}` },
          {
            k: 'columns',
            widths: [0, 90, 110],
            above: 10,
            c: [
              [words(paper.student ?? 'Name: ______________________________', { sans: true, size: 10 })],
              [words(paper.points, { sans: true, size: 10 })],
              [words(paper.code, { sans: true, size: 10, align: 'right' })],
            ],
          },
        ],
      },
      ...(isEmptyRich(paper.instructions)
        ? []
        : [{ k: 'stack' as const, above: 8, c: richNodes(paper.instructions, setting, { size: 10.5 }) }]),
      ...paper.slots.flatMap((slot): PrintBlock[] => [
        ...(slot.heading ? [{ k: 'h' as const, level: 2 as const, s: slot.heading }] : []),
        ...(slot.choose ? [words(slot.choose, { sans: true, size: 10 })] : []),
        ...(slot.passage
          ? [{ k: 'stack' as const, above: 10, edge: 'frame' as const, c: richNodes(slot.passage, setting) }]
          : []),
        questionNodes(slot, setting),
      ]),
    ],
  };
}

/**
 * Prints papers, each beginning on a page of its own with its own page numbers: into one PDF, or of many papers into an
 * archive of several.
 *
 * @param onProgress told how many papers are printed
 */
export async function printPapers(
  { papers, pictures }: Extract<PrintOrder, { papers: unknown }>,
  onProgress: (done: number) => void = () => {},
): Promise<Uint8Array> {
  const documents = papers.map((paper) => paperDocument(paper, { pictures }));
  return typesetFiles(documents, pictures, 'papers', onProgress);
}

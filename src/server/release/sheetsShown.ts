import type { Fact } from '@/core/release/plan';
import type { SheetEvidence } from '../records/sheetEvidence';

/** What of an answer sheet its student may look at: points that were filled in tell how an answer did. */
export const showsOnSheet = (visible: ReadonlySet<Fact>, holdsPoints: boolean): boolean =>
  visible.has('questions') && visible.has('own-answers') && (!holdsPoints || visible.has('right-or-wrong'));

/** The pages that can be looked at whole, and the places of the questions of which a piece can be. */
export function sheetsShown(sheets: readonly SheetEvidence[], visible: ReadonlySet<Fact>) {
  return {
    pages: sheets.flatMap(({ pageId, page, holdsPoints }) =>
      showsOnSheet(visible, holdsPoints) ? [{ pageId, page }] : [],
    ),
    pieces: new Map(
      sheets.flatMap(({ pieces }) =>
        [...pieces].flatMap(([position, { points }]): [number, 'answer' | 'points'][] =>
          showsOnSheet(visible, points) ? [[position, points ? 'points' : 'answer']] : [],
        ),
      ),
    ),
  };
}

import type { Rich } from '../../../base/rich';
import type { Presentation } from '../../presentation';
import { asFields, asTexts } from '../../readJson';
import { type ShownChoice, shownChoices } from '../single-choice/student';
import type { GapFillContent } from './content';

/** A gap as a student sees it: what kind of thing goes in, and for a pick the options of this paper. */
export type GapView =
  | { id: string; kind: 'text' }
  | { id: string; kind: 'number' }
  | { id: string; kind: 'pick'; look: 'list' | 'row'; options: ShownChoice[] };

/** A gap-fill as a student sees it: the text, and of each gap only what kind of thing goes in. */
export type GapFillView = { type: 'gap-fill'; stem: Rich; gaps: GapView[] };

/** What stands in each gap by its id: a text, a number as typed, or the key of the picked option. */
export type GapFillResponse = { gaps: Record<string, string> };

/** Builds the student's view from nothing. */
export const viewGapFill = (content: GapFillContent, presentation: Presentation): GapFillView => ({
  type: 'gap-fill',
  stem: content.stem,
  gaps: content.gaps.map((gap): GapView => {
    if (gap.kind !== 'pick') return { id: gap.id, kind: gap.kind };
    return {
      id: gap.id,
      kind: 'pick',
      look: gap.look,
      options: shownChoices(gap.options, presentation.lists?.[gap.id]),
    };
  }),
});

/**
 * Reads any JSON: at most 50 gaps of at most 500 characters; null where it is anything else, undefined where every gap is empty.
 */
export function readGapFillResponse(input: unknown): GapFillResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const texts = asTexts(asFields(input)?.gaps, 50, 500);
  if (!texts) return null;
  const filled = Object.entries(texts).filter(([, text]) => text.trim() !== '');
  return filled.length ? { gaps: Object.fromEntries(filled) } : undefined;
}

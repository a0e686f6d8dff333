import type { Random } from '../../../base/random';
import { richText } from '../../../base/rich';
import { idOf, keyOf, layOut, type Presentation } from '../../presentation';
import { creditOf, type Scored } from '../../scored';
import { matchText } from '../../text/matchText';
import { exampleOf } from '../../text/wildcards';
import { rightNumber, scoreNumber } from '../numeric/score';
import type { Gap, GapFillContent } from './content';
import { gapsIn } from './gapsIn';
import type { GapFillResponse } from './student';

/** The right content of a gap in words. */
export function gapAnswer(gap: Gap): string {
  if (gap.kind === 'pick') {
    const right = gap.options.find((option) => option.right);
    return right ? richText(right.content) : '';
  }
  const best = gap.accepted.find((one) => one.credit === 1);
  if (!best) return '';
  return 'text' in best ? best.text : best.value;
}

/** Options of pick-gaps under random keys; a row keeps its order. */
export function presentGapFill(content: GapFillContent, random: Random): Presentation {
  const picks = content.gaps.filter((gap) => gap.kind === 'pick');
  if (picks.length === 0) return {};
  return {
    lists: Object.fromEntries(
      picks.map((gap) => [gap.id, layOut(gap.options, gap.look === 'list' && gap.shuffle, random)]),
    ),
  };
}

/** The credit of what stands in one gap. */
export function scoreGap(gap: Gap, presentation: Presentation, given: string | undefined): number {
  if (given === undefined || given.trim() === '') return 0;
  switch (gap.kind) {
    case 'text':
      return matchText(gap.accepted, gap.matching, given)?.credit ?? 0;
    case 'number': {
      const scored = scoreNumber(gap, { text: given });
      return scored.kind === 'credit' ? scored.credit : 0;
    }
    case 'pick': {
      const id = idOf(presentation.lists?.[gap.id], given);
      return gap.options.find((option) => option.id === id)?.right ? 1 : 0;
    }
  }
}

/** Σ weight·credit / Σ weight over the gaps. */
export function scoreGapFill(content: GapFillContent, presentation: Presentation, response: GapFillResponse): Scored {
  let sum = 0;
  let weights = 0;
  for (const gap of content.gaps) {
    sum += gap.weight * scoreGap(gap, presentation, response.gaps[gap.id]);
    weights += gap.weight;
  }
  return creditOf(sum / weights);
}

/** The right content of every gap; where words may be matched by wildcards, an example of them. */
export function rightGapFill(content: GapFillContent, presentation: Presentation): GapFillResponse {
  const right = (gap: Gap): string => {
    switch (gap.kind) {
      case 'text': {
        const text = gap.accepted.find((one) => one.credit === 1)?.text ?? '';
        return gap.matching.wildcards ? exampleOf(text) : text;
      }
      case 'number': {
        const { text, unit } = rightNumber(gap);
        return unit ? `${text} ${unit}` : text;
      }
      case 'pick':
        return keyOf(presentation.lists?.[gap.id], gap.options.find((option) => option.right)?.id);
    }
  };
  return { gaps: Object.fromEntries(content.gaps.map((gap) => [gap.id, right(gap)])) };
}

/** The gaps in reading order: `1: flood; 2: 5.5`. */
export function gapFillResponseText(
  content: GapFillContent,
  presentation: Presentation,
  response: GapFillResponse,
): string {
  const order = gapsIn(content.stem);
  return order
    .map((id, i) => {
      const gap = content.gaps.find((one) => one.id === id);
      const given = response.gaps[id] ?? '';
      const picked =
        gap?.kind === 'pick' ? gap.options.find((one) => one.id === idOf(presentation.lists?.[id], given)) : null;
      return `${i + 1}: ${picked ? richText(picked.content) : gap?.kind === 'pick' ? '' : given}`;
    })
    .join('; ');
}

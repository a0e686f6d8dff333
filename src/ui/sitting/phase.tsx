import type { SittingPhase } from '@/server/records/audience';
import { State } from '../kit/Page';

const said = {
  draft: ['plain', 'not scheduled'],
  cancelled: ['plain', 'called off'],
  coming: ['waits', 'coming'],
  open: ['now', 'open now'],
  closed: ['plain', 'closed'],
} as const;

/** Where a sitting stands, in words. */
export function Phase({ phase }: { phase: SittingPhase }) {
  const [ink, words] = said[phase];
  return <State ink={ink}>{words}</State>;
}

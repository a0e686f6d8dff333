import type { Metadata } from 'next';
import { TryOutPage } from '@/ui/attempt/TryOutPage';
import { commandsIn } from '../commands';
import { pageContext } from '../request';

export const metadata: Metadata = { title: 'Try-out' };

/** One question of each type on the real taking page, for whoever wants to try how it goes. Nothing of it is stored. */
export default async function TryOut() {
  await pageContext();
  return <TryOutPage {...commandsIn({}, 'openTryOut', 'scoreTryOut')} />;
}

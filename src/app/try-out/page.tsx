import { commandsIn, page } from '@/app/pages';
import { TryOutPage } from '@/ui/attempt/TryOutPage';

export const metadata = { title: 'Try-out' };

/** One question of each type on the real taking page, for whoever wants to try how it goes. Nothing of it is stored. */
export default page((context) => {
  context;
  return <TryOutPage {...commandsIn({}, 'openTryOut', 'scoreTryOut')} />;
});

import { commandsIn, orNotFound, page } from '@/app/pages';
import { desk } from '@/server/desk/desk';
import { Desk } from '@/ui/desk/Desk';

export const metadata = { title: 'Desk' };

export default page<'courseId'>((context, { courseId }) => {
  return <Desk base={`/c/${courseId}`} desk={orNotFound(desk(context, courseId))} {...commandsIn({}, 'giveUpDraft')} />;
});

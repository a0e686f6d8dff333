import { orNotFound, page } from '@/app/pages';
import { totalAs } from '@/server/gradebook/myTotal';
import { TotalAsPage } from '@/ui/gradebook/TotalAsPage';

export const metadata = { title: 'Total as a student' };

export default page<'courseId' | 'userId'>((context, { courseId, userId }) => (
  <TotalAsPage base={`/c/${courseId}`} total={orNotFound(totalAs(context, courseId, userId))} />
));

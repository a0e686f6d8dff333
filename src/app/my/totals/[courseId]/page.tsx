import { orNotFound, page } from '@/app/pages';
import { myTotal } from '@/server/gradebook/myTotal';
import { OwnTotalPage } from '@/ui/gradebook/OwnTotalPage';

export const metadata = { title: 'My total' };

export default page<'courseId'>((context, { courseId }) => (
  <OwnTotalPage total={orNotFound(myTotal(context, courseId))} linked />
));

import { orNotFound, page } from '@/app/pages';
import { objectiveResults } from '@/server/gradebook/objectiveResults';
import { ObjectivesPage } from '@/ui/gradebook/ObjectivesPage';

export const metadata = { title: 'By objective' };

export default page<'courseId'>((context, { courseId }) => {
  return <ObjectivesPage base={`/c/${courseId}`} results={orNotFound(objectiveResults(context, courseId))} />;
});

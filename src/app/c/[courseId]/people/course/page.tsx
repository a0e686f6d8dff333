import { commandsIn, orNotFound, page } from '@/app/pages';
import { courseFields } from '@/server/people/courses';
import { editHouseInstructions } from '@/server/people/schoolInstructions';
import { PageFrame, PageTitle } from '@/ui/kit/Page';
import { CourseFields } from '@/ui/people/CourseFields';
import { HouseInstructions } from '@/ui/people/HouseInstructions';

export const metadata = { title: 'The course' };

export default page<'courseId'>((context, { courseId }) => {
  const fields = orNotFound(courseFields(context, courseId));
  const school = orNotFound(editHouseInstructions(context, courseId));
  return (
    <PageFrame width="reading">
      <PageTitle title="The course" back={{ href: `/c/${courseId}/people`, name: 'People' }} />
      <CourseFields
        title="The course"
        fields={fields}
        act="Save"
        submit={commandsIn({ courseId }, 'changeCourse').changeCourse}
        back={`/c/${courseId}/people`}
        onward={`/c/${courseId}/people`}
      />
      <HouseInstructions
        school={school}
        me={context.actor.userId}
        commands={commandsIn({ courseId }, 'setHouseInstructions', 'setKeeper')}
      />
    </PageFrame>
  );
});

import { commandsIn, page } from '@/app/pages';
import { newCourseBeginning } from '@/server/people/courses';
import { PageTitle } from '@/ui/kit/Page';
import { pageWidths } from '@/ui/kit/pageWidths';
import { CourseFields } from '@/ui/people/CourseFields';

export const metadata = { title: 'A new course' };

export default page((context) => {
  const { timeZone, banks } = newCourseBeginning(context);
  return (
    <main className={`mx-auto px-4 py-6 ${pageWidths.reading}`}>
      <PageTitle title="A new course" back={{ href: '/', name: 'Your work' }} />
      <CourseFields
        title="A new course"
        fields={{ name: '', term: '', timeZone }}
        banks={banks}
        act="Begin the course"
        submit={commandsIn({}, 'createCourse').createCourse}
        back="/"
      />
    </main>
  );
});

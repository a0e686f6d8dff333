import { commandsIn, page } from '@/app/pages';
import { newCourseBeginning } from '@/server/people/courses';
import { CourseFields } from '@/ui/people/CourseFields';

export const metadata = { title: 'A new course' };

export default page((context) => {
  const { timeZone, banks } = newCourseBeginning(context);
  return (
    <main className="mx-auto max-w-md px-4 py-12">
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

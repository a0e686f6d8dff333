import { commandsIn, page } from '@/app/pages';
import { CourseFields } from '@/ui/people/CourseFields';

export const metadata = { title: 'A new course' };

export default page((context) => {
  context;
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      <CourseFields
        title="A new course"
        fields={{ name: '', term: '', timeZone: 'UTC' }}
        act="Begin the course"
        submit={commandsIn({}, 'createCourse').createCourse}
        back="/"
      />
    </main>
  );
});

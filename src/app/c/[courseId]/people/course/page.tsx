import type { Metadata } from 'next';
import { editHouseInstructions, setHouseInstructions } from '@/server/house/houseInstructions';
import { changeCourse, courseFields } from '@/server/people/courses';
import { CourseFields } from '@/ui/people/CourseFields';
import { HouseInstructions } from '@/ui/people/HouseInstructions';
import { acting, orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'The course' };

async function change(courseId: string, input: unknown) {
  'use server';
  return acting((context) => changeCourse(context, courseId, input));
}

async function tell(courseId: string, input: unknown) {
  'use server';
  return acting((context) => setHouseInstructions(context, courseId, input));
}

export default async function CoursePage({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const context = await pageContext();
  const fields = orNotFound(courseFields(context, courseId));
  const instructions = orNotFound(editHouseInstructions(context, courseId));
  return (
    <div className="max-w-2xl">
      <CourseFields
        title="The course"
        fields={fields}
        act="Save"
        submit={change.bind(null, courseId)}
        back={`/c/${courseId}/people`}
        onward={`/c/${courseId}/people`}
      />
      <HouseInstructions begun={instructions} save={tell.bind(null, courseId)} />
    </div>
  );
}

import { orNotFound, page } from '@/app/pages';
import { instantFromLocal } from '@/core/base/localTime';
import { studentsToLookAs } from '@/server/release/asStudent';
import { reviewAs } from '@/server/release/review';
import { AsStudentPage } from '@/ui/release/AsStudentPage';
import { ReviewPage } from '@/ui/release/ReviewPage';

export const metadata = { title: 'As a student' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }, asked) => {
  const whole = orNotFound(studentsToLookAs(context, courseId, sittingId));
  const userId = asked.student ?? whole.students[0]?.userId ?? '';
  const at = instantFromLocal(asked.at ?? '', whole.timeZone) ?? context.now;
  const published = asked.published === 'yes';
  const number = Number(asked.attempt) || null;
  const here = `/c/${courseId}/sittings/${sittingId}/as-student`;
  const query = new URLSearchParams({
    student: userId,
    ...(asked.at ? { at: asked.at } : {}),
    ...(published ? { published: 'yes' } : {}),
  });
  const review = userId ? orNotFound(reviewAs(context, courseId, sittingId, { userId, at, number, published })) : null;
  return (
    <AsStudentPage
      key={`${userId}/${at}/${published}`}
      here={here}
      back={`/c/${courseId}/sittings/${sittingId}`}
      whole={whole}
      chosen={{ userId, at, isNow: !asked.at, published }}
      now={context.now}
    >
      {review && <ReviewPage review={review} here={`${here}?${query}`} commands={null} cardsHref={null} />}
    </AsStudentPage>
  );
});

import { orNotFound, page } from '@/app/pages';
import { momentText } from '@/core/base/time';
import { seeReceipt } from '@/server/attempt/handIn';
import { seeCourse } from '@/server/people/courses';
import { Leftovers } from '@/ui/attempt/Leftovers';
import { Sheet } from '@/ui/kit/Page';
import { TextLink } from '@/ui/kit/TextLink';
import { textLook } from '@/ui/kit/textLook';
import { SignOut } from '@/ui/people/SignOut';

export const metadata = { title: 'Receipt' };

const howItEnded = {
  student: 'You handed it in.',
  clock: 'The time was over, and it was handed in by itself.',
  invigilator: 'It was handed in for you.',
};

export default page<'attemptId'>((context, { attemptId }) => {
  const receipt = orNotFound(seeReceipt(context, attemptId));
  const { timeZone } = orNotFound(seeCourse(context, receipt.courseId));
  return (
    <Sheet className="px-6 py-5 text-lg">
      <h1 className="text-2xl">
        {receipt.counts ? 'Handed in' : 'Not handed in in time'}: {receipt.sittingTitle}
      </h1>
      <p className="mt-2">
        {receipt.counts
          ? howItEnded[receipt.endedBy]
          : 'The time allowed for the hand-in passed. Your answers are kept, and do not count; tell your instructor if something kept you from it.'}
      </p>
      <Leftovers attemptId={receipt.attemptId} />
      <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1">
        <dt className="text-ink-2">When</dt>
        <dd>
          {momentText(receipt.endedAt, timeZone)} ({timeZone})
        </dd>
        <dt className="text-ink-2">Answers</dt>
        <dd>
          {receipt.answered === null
            ? 'stored without your name'
            : `${receipt.answered} of ${receipt.questions} questions answered`}
        </dd>
        {receipt.code && (
          <>
            <dt className="text-ink-2">Receipt code</dt>
            <dd className="font-mono">{receipt.code}</dd>
          </>
        )}
      </dl>
      <h2 className="mt-5 text-lg">What comes next</h2>
      {receipt.nextTask && <p className="mt-1 whitespace-pre-wrap">{receipt.nextTask}</p>}
      {receipt.scored && receipt.counts && receipt.answered !== null && (
        <p className="mt-1">
          {receipt.afterwards.join(' ')} It stands under{' '}
          <TextLink href={`/my/results/${receipt.sittingId}`}>My results</TextLink>.
        </p>
      )}
      {!receipt.nextTask && (!receipt.scored || receipt.answered === null) && (
        <p className="mt-1">Nothing: you are done with this one.</p>
      )}
      {!receipt.nextTask && receipt.scored && receipt.answered !== null && !receipt.counts && (
        <p className="mt-1">Nothing by itself: your instructor can open it again.</p>
      )}
      <p className="mt-4 flex gap-5 text-base">
        <TextLink href="/my">Back to my exams</TextLink>
        <SignOut className={textLook()} />
      </p>
    </Sheet>
  );
});

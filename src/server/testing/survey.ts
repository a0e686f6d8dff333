import { richFromText } from '@/core/base/rich';
import { usualMatching } from '@/core/question/text/acceptedText';
import type { School } from './school';

/** Gives an anonymous survey of one open question and three drawn of six, which counts for taking part. @returns its id */
export function giveSurvey(school: School): string {
  const open = school.question({
    type: 'short-text',
    stem: richFromText('What would you change?'),
    accepted: [],
    matching: usualMatching,
    feedback: {},
  });
  school.questions(6);
  return school.sitting(
    school.exam([school.fixed(open), school.draw(3)], 10, (design) => ({
      ...design,
      purpose: { scored: false, counts: 'taking-part', anonymous: true },
    })),
  );
}

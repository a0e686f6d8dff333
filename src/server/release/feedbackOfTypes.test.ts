import { describe, expect, it } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { hour } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { usualMatching } from '@/core/question/text/acceptedText';
import { type Fact, facts } from '@/core/release/plan';
import type { Actor } from '../house/context';
import { planOf, window } from '../testing/releaseSchool';
import { must, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { publishReady } from './publish';
import { myReview } from './review';

const word = richFromText('FEEDBACKWORD');
const exact = { kind: 'absolute' as const, amount: 0 };

/** A question of each type that says something to parts of an answer, with an answer to which it says it. */
const speaking: [QuestionContent, unknown][] = [
  [
    { type: 'true-false', stem: richFromText('Ebb rises.'), answer: false, onTrue: word, onFalse: word, feedback: {} },
    { picked: true },
  ],
  [
    {
      type: 'short-text',
      stem: richFromText('Call it.'),
      accepted: [
        { text: 'neap', credit: 1 },
        { text: 'spring', credit: 0, feedback: word },
      ],
      matching: usualMatching,
      feedback: {},
    },
    { text: 'spring' },
  ],
  [
    {
      type: 'numeric',
      stem: richFromText('How many?'),
      accepted: [
        { value: '6', tolerance: exact, credit: 1 },
        { value: '7', tolerance: exact, credit: 0, feedback: word },
      ],
      feedback: {},
    },
    { text: '7' },
  ],
  [
    {
      type: 'gap-fill',
      stem: {
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: 'A week has ' },
              { type: 'gap', attrs: { id: 'g0' } },
              { type: 'text', text: ' days.' },
            ],
          },
        ],
      },
      gaps: [
        {
          id: 'g0',
          kind: 'number',
          weight: 1,
          accepted: [
            { value: '7', tolerance: exact, credit: 1 },
            { value: '6', tolerance: exact, credit: 0, feedback: word },
          ],
        },
      ],
      feedback: {},
    },
    { gaps: { g0: '6' } },
  ],
];

describe.each(speaking.map(([content, answer]) => [content.type, content, answer] as const))(
  'what a %s says to an answer',
  (_, content, answer) => {
    /** A student's review of the question, answered and published, where the plan shows these facts. */
    const reviewed = (shown: readonly Fact[]): string => {
      const school = new School(1);
      const sittingId = school.sitting(school.exam([school.fixed(school.question(content), 4)]), {
        releasePlan: planOf(shown, window('on-publishing')),
      });
      const student = school.students[0] as Actor;
      takePaper(school, sittingId, student, [answer]);
      must(
        publishReady(school.as(school.teacher, hour), school.courseId, sittingId, { expected: 1, showAtOnce: true }),
      );
      return JSON.stringify(must(myReview(school.as(student, hour), sittingId)));
    };

    it('is read where feedback is shown', () => {
      expect(reviewed(facts)).toContain('FEEDBACKWORD');
    });

    it('does not come with the key where feedback is not shown', () => {
      const sent = reviewed(facts.filter((fact) => fact !== 'feedback'));
      expect(sent).toContain(content.type === 'true-false' ? '"answer":false' : '"accepted"');
      expect(sent).not.toContain('FEEDBACKWORD');
    });
  },
);

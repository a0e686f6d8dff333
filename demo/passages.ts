import type { Rich, RichBlock } from '../src/core/base/rich';
import type { QuestionContent } from '../src/core/question/content';
import { number, one, say, several, statement, words } from './compose';

const cell = (text: string, head = false): RichBlock & { type: 'paragraph' } => ({
  type: 'paragraph',
  ...(text ? { content: [{ type: 'text', text, ...(head ? { marks: [{ type: 'bold' }] } : {}) }] } : {}),
});

const table = (rows: string[][]): RichBlock => ({
  type: 'table',
  content: rows.map((row, r) => ({
    type: 'tableRow',
    content: row.map((text) => ({ type: r === 0 ? 'tableHeader' : 'tableCell', content: [cell(text)] })),
  })),
});

type Passage = {
  name: string;
  in: string;
  objective: string;
  content: Rich;
  questions: [name: string, difficulty: 'easy' | 'medium' | 'hard', content: QuestionContent][];
};

/** Made up like everything here: the port, its tides and the weather off it. */
export const passages: Passage[] = [
  {
    name: 'Tide table, Tern Point',
    in: 'Tides & streams › Heights',
    objective: 'N4',
    content: {
      type: 'doc',
      content: [
        ...say('Tern Point, 12 and 13 May, times in UT. Charted depth over the bar: 0.8 m.').content,
        table([
          ['Day', 'Low water', 'High water', 'Low water', 'High water'],
          ['12', '02:14  1.1 m', '08:26  4.9 m', '14:40  1.3 m', '20:51  4.7 m'],
          ['13', '03:02  0.9 m', '09:13  5.1 m', '15:26  1.1 m', '21:35  4.9 m'],
        ]),
      ],
    },
    questions: [
      [
        'Range of the morning tide',
        'easy',
        number('What is the range of the rising tide on the morning of the 12th, in metres?', '3.8', {
          within: 0.05,
          solution: '4.9 − 1.1 = 3.8 m.',
        }),
      ],
      [
        'Depth on the bar at low water',
        'medium',
        number('What depth is on the bar at low water on the afternoon of the 13th, in metres?', '1.9', {
          within: 0.05,
          also: [['1.1', 0.05, 0.5, 'That is the height of tide; add the charted depth.']],
        }),
      ],
      [
        'Towards springs',
        'medium',
        one('From the 12th to the 13th the tides are', 'making, towards springs', [
          'taking off, towards neaps',
          'unchanged',
        ]),
      ],
      [
        'Crossing with 2.1 m',
        'hard',
        statement(
          'A boat that draws 1.8 m and wants 0.5 m under the keel can cross the bar at low water on the 12th at 14:40.',
          false,
          'It needs 2.3 m; there are 0.8 + 1.3 = 2.1 m.',
        ),
      ],
    ],
  },
  {
    name: 'Forecast for Tern Bight',
    in: 'Weather',
    objective: 'N9',
    content: say(
      'Tern Bight, issued 0600: South-west 3 or 4, backing south-east and increasing 5 or 6 by evening. Sea slight, becoming rough later. Rain later. Visibility good, becoming moderate or poor. A low of 992, 300 miles west of the cape, is moving east at 20 knots.',
    ),
    questions: [
      [
        'Backing from the report',
        'easy',
        words('From which quarter will the wind blow in the evening?', ['south-east', ['SE', 1], ['south', 0.5]], 1),
      ],
      [
        'When the low is here',
        'medium',
        number('If the low keeps its speed, after how many hours does it reach the cape?', '15', { within: 0.5 }),
      ],
      [
        'Signs of its coming',
        'medium',
        several(
          'Which of these fit the coming of this low?',
          ['A falling barometer', 'Cloud thickening from the west'],
          ['Clearing from the east', 'A rising barometer'],
          'each-judged',
        ),
      ],
    ],
  },
  {
    name: 'Passage brief: Tern Point to Gannet Sound',
    in: 'Passage planning',
    objective: 'N10',
    content: say(
      'Yacht of 10.4 m, draught 1.8 m, 5 kn under engine, crew of three, one of them new. Distance 24 nm: 9 nm along the coast, 15 nm across the bay. The race off Gannet Head is to be passed within an hour of slack, at 11:30 or 17:50. Gannet Sound can be entered from two hours before to two hours after high water, which is at 15:10. Sunset is at 18:20.',
    ),
    questions: [
      [
        'Latest departure',
        'medium',
        number(
          'The head lies 20 nm along the way. At what hour of the day must you leave to reach it at 11:30 at 5 kn, as a decimal (07:30 is 7.5)?',
          '7.5',
          { within: 0.1 },
        ),
      ],
      [
        'Window at the sound',
        'easy',
        one('Between which times can Gannet Sound be entered?', '13:10 and 17:10', [
          '14:10 and 16:10',
          '15:10 and 17:10',
          '11:30 and 17:50',
        ]),
      ],
      [
        'Second slack',
        'hard',
        statement(
          'Passing the head at the second slack still lets the boat enter the sound by the same tide.',
          false,
          'The second slack is at 17:50; the entrance closes at 17:10.',
        ),
      ],
    ],
  },
];

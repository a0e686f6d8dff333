import type { QuestionContent } from '../src/core/question/content';
import {
  type Composed,
  essay,
  gaps,
  match,
  number,
  one,
  order,
  scale,
  several,
  statement,
  values,
  words,
} from './compose';

const distance = {
  entry: 'typed' as const,
  missing: 'assume' as const,
  list: [
    { name: 'nm', factor: 1 },
    { name: 'km', factor: 1 / 1.852 },
    { name: 'm', factor: 1 / 1852 },
    { name: 'cables', factor: 0.1 },
  ],
};

type Row = [name: string, objective: string, difficulty: Composed['difficulty'], content: QuestionContent];
const inCategory = (category: string, rows: Row[]): Composed[] =>
  rows.map(([name, objective, difficulty, content]) => ({ name, in: category, objective, difficulty, content }));

/** Questions of the types and with the values that the first part of the bank does not show. Correct in substance. */
export const composed: Composed[] = [
  ...inCategory('Charts & position', [
    [
      'Position by two bearings',
      'N1',
      'easy',
      several(
        'Which of these give a line of position?',
        [
          'A compass bearing of a light',
          'A depth contour crossed, with the tide allowed for',
          'Two beacons in transit',
        ],
        ['The log reading alone', 'The barometer'],
      ),
    ],
    [
      'Cocked hat',
      'N1',
      'medium',
      statement(
        'Three bearings that meet in a small triangle put the boat somewhere inside it for certain.',
        false,
        'Each line has its error; the boat may lie outside. The corner nearest to danger is taken.',
      ),
    ],
    [
      'Latitude and longitude',
      'N1',
      'easy',
      gaps('Latitude is measured [a] of the equator and never exceeds [b] degrees. Longitude is measured from [c].', {
        a: { pick: ['north or south', 'east or west'], row: true },
        b: { number: '90' },
        c: 'Greenwich',
      }),
    ],
    [
      'Chart abbreviations',
      'N1',
      'medium',
      match('What do these stand for on the chart?', { S: 'sand', M: 'mud', R: 'rock', Wk: 'wreck', Co: 'coral' }, [
        'stones',
      ]),
    ],
    [
      'Sea mile',
      'N1',
      'easy',
      words('What is one tenth of a nautical mile called?', ['cable', ['cables', 1], ['a cable length', 1]], 1),
    ],
    [
      'Cables to metres',
      'N1',
      'easy',
      number('A mooring lies [d] cables from the pier head. How far is that?', 'd / 10', {
        values: values({ d: [2, 9, 1] }),
        units: { ...distance, missing: 'refuse' },
        percent: 1,
        solution: 'A cable is a tenth of a nautical mile, so [d] cables are $\\frac{d}{10}$ nm.',
      }),
    ],
    [
      'Running fix',
      'N1',
      'hard',
      order('Put the steps of a running fix in order.', [
        'Take a bearing and draw it',
        'Note log and time',
        'Sail on a steady course',
        'Take a second bearing of the same mark',
        'Move the first line along by the distance run',
        'Mark where it meets the second line',
      ]),
    ],
  ]),
  ...inCategory('Compass & variation', [
    [
      'True from magnetic',
      'N3',
      'easy',
      number(
        'The magnetic bearing of a headland is [m]°. Variation is [v]° west. What is the true bearing in degrees?',
        'mod(m - v, 360)',
        {
          values: values({ m: [5, 355, 5], v: [2, 9, 1] }),
          within: 0.5,
          also: [['mod(m + v, 360)', 0.5, 0, 'West variation is taken away from magnetic to come to true.']],
          solution: 'West is least: $T = M - V_W$, so [m]° − [v]°.',
        },
      ),
    ],
    [
      'Compass from true',
      'N3',
      'medium',
      number(
        'You must steer [t]° true. Variation is [v]° west and the deviation [d]° east. What do you steer by compass?',
        'mod(t + v - d, 360)',
        {
          values: values({ t: [10, 350, 10], v: [3, 8, 1], d: [1, 4, 1] }),
          within: 0.5,
          when: ['v != d'],
          solution: 'From true to compass west is added and east taken away.',
        },
      ),
    ],
    [
      'Where deviation comes from',
      'N3',
      'easy',
      several(
        'What can change the deviation of a steering compass?',
        ['A loudspeaker stowed beside it', 'A new heading', 'Steel tools in the locker below'],
        ['Sailing to another ocean', 'The height of the tide'],
        'each-judged',
      ),
    ],
    [
      'Variation changes',
      'N3',
      'medium',
      statement(
        'The variation printed on a chart stays right for as long as the chart is in use.',
        false,
        'It changes from year to year; the rose gives the yearly change.',
      ),
    ],
    [
      'Order of corrections',
      'N3',
      'medium',
      order(
        'From compass to true: put the steps in order.',
        [
          'Read the compass heading',
          'Apply the deviation for that heading',
          'Read it as magnetic',
          'Apply the variation of the place',
          'Read it as true',
        ],
        'in-place',
      ),
    ],
    [
      'Transit check',
      'N3',
      'hard',
      gaps(
        'Two beacons in transit bear 042° true. Variation is 5° W, so they bear [m]° magnetic. The compass shows 051°, so the deviation is [d]° [w].',
        { m: { number: '47' }, d: { number: '4' }, w: { pick: ['west', 'east'], row: true } },
      ),
    ],
    [
      'Compass error',
      'N3',
      'easy',
      words('What is the sum of variation and deviation called?', ['compass error', 'total error', ['error', 0.5]], 2),
    ],
  ]),
  ...inCategory('Tides & streams › Heights', [
    [
      'Twelfths, filled in',
      'N4',
      'easy',
      gaps(
        'By the rule of twelfths the tide rises [a]/12 of its range in the first hour, [b]/12 in the second and [c]/12 in the third.',
        { a: { number: '1' }, b: { number: '2' }, c: { number: '3' } },
      ),
    ],
    [
      'Depth at a time',
      'N4',
      'medium',
      number(
        'Low water is [l.1] m, high water [h.1] m. A sounding on the chart is [s.1] m. By the rule of twelfths, what is the depth there two hours after low water, in metres?',
        's + l + (h - l) * 3 / 12',
        {
          values: values({ l: [0.4, 1.6, 0.1], h: [4, 6.4, 0.2], s: [1, 4, 0.5] }),
          within: 0.1,
          also: [['l + (h - l) * 3 / 12', 0.1, 0.5, 'This is the height of tide; the sounding is still to be added.']],
          solution: 'After two hours $\\frac{1+2}{12}$ of the range has come in.',
        },
      ),
    ],
    [
      'Spring tides',
      'N4',
      'easy',
      several(
        'When are spring tides?',
        ['About new moon', 'About full moon'],
        ['Only in spring', 'At half moon'],
        'all-or-nothing',
      ),
    ],
    [
      'Range',
      'N4',
      'easy',
      words('What is the difference between the heights of high and low water called?', [
        'range',
        'the range',
        'tidal range',
      ]),
    ],
    [
      'Tidal words',
      'N4',
      'medium',
      match(
        'Match each word to what it says.',
        {
          'chart datum': 'level from which depths are charted',
          'height of tide': 'water above chart datum now',
          'drying height': 'how far it stands above chart datum',
          range: 'high water less low water',
        },
        ['speed of the stream'],
      ),
    ],
    [
      'Bridge clearance',
      'N4',
      'hard',
      number(
        'A bridge clears 16.2 m above highest astronomical tide, which is 5.1 m. The height of tide is [t.1] m. What clearance is there now, in metres?',
        '16.2 + 5.1 - t',
        { values: values({ t: [0.8, 4.4, 0.2] }), within: 0.05 },
      ),
    ],
  ]),
  ...inCategory('Tides & streams › Streams', [
    [
      'Set and drift',
      'N5',
      'easy',
      gaps('The direction towards which a stream runs is its [a]; the distance it carries a boat is the [b].', {
        a: 'set',
        b: 'drift',
      }),
    ],
    [
      'Speed over ground',
      'N5',
      'easy',
      number(
        'You log [v.1] kn straight against a stream of [s.1] kn. What is your speed over the ground, in knots?',
        'v - s',
        {
          values: values({ v: [4, 7, 0.5], s: [0.5, 2.5, 0.5] }),
          within: 0.05,
          also: [['v + s', 0.05, 0, 'The stream is against you.']],
        },
      ),
    ],
    [
      'Course to steer',
      'N5',
      'hard',
      order('Put the steps of finding a course to steer in order.', [
        'Draw the line from departure to destination',
        'Lay off the stream for the hour from the departure',
        'Set the dividers to the boat speed',
        'Swing them from the end of the stream to the line',
        'Measure the direction of that leg',
        'Allow for leeway',
      ]),
    ],
    ['Leeway', 'N5', 'easy', statement('Leeway is the drift caused by the wind, not by the stream.', true)],
    [
      'Wind over tide',
      'N5',
      'medium',
      several(
        'The wind blows against the stream. What follows?',
        ['Shorter, steeper seas', 'A faster passage over the ground for a boat going with the stream'],
        ['A longer, lower swell', 'No change in the sea'],
      ),
    ],
  ]),
  ...inCategory('Tides & streams › Secondary ports', [
    [
      'Between springs and neaps',
      'N6',
      'hard',
      number(
        'The difference for a secondary port is −0.4 m at 5.2 m and −0.1 m at 3.8 m of the standard port. What is it, in metres, when the standard port has [h.1] m?',
        'round(-0.1 - 0.3 * (h - 3.8) / 1.4, 3)',
        { values: values({ h: [4, 5.1, 0.1] }), within: 0.02 },
      ),
    ],
    [
      'Steps at a secondary port',
      'N6',
      'medium',
      order(
        'Working high water of a secondary port: put the steps in order.',
        [
          'Find high water of the standard port',
          'Find the differences for the time of day',
          'Interpolate for the height',
          'Apply them to time and height',
          'Correct for summer time',
        ],
        'pairs',
      ),
    ],
    [
      'Time zones of tables',
      'N6',
      'medium',
      statement('The differences for a secondary port are applied before summer time is added.', true),
    ],
  ]),
  ...inCategory('Lights, buoys & sounds', [
    [
      'Marks and topmarks',
      'N7',
      'medium',
      match(
        'Match each cardinal mark to its topmark.',
        {
          north: 'two cones, points up',
          south: 'two cones, points down',
          east: 'two cones, base to base',
          west: 'two cones, point to point',
        },
        ['two balls'],
        'all-or-nothing',
      ),
    ],
    [
      'Quick flashes',
      'N7',
      'medium',
      gaps('A [c] cardinal mark shows nine quick flashes; a south one shows [n] and one long flash.', {
        c: { pick: ['west', 'east', 'north', 'south'] },
        n: { number: '6' },
      }),
    ],
    [
      'Lights of a power vessel',
      'N7',
      'easy',
      several(
        'Which lights does a power-driven vessel of 60 m show under way?',
        ['Two masthead lights', 'Sidelights', 'A sternlight'],
        ['An all-round red light', 'A yellow towing light'],
        'wrong-cancels-right',
      ),
    ],
    ['Colour of a light', 'N7', 'easy', words('What colour is the sidelight on the starboard side?', ['green'], 1)],
    ['Isophase or not', 'N7', 'medium', statement('An isophase light is on for as long as it is off.', true)],
    [
      'Period of a light',
      'N7',
      'medium',
      number('A light is charted Fl(3) 15s. How many flashes does it show in [m] minutes?', 'm * 60 / 15 * 3', {
        values: values({ m: [2, 8, 1] }),
      }),
    ],
    [
      'Dipping range',
      'N7',
      'hard',
      number(
        'By the rule $d = 2.08(\\sqrt{h} + \\sqrt{e})$, at what distance does a light [h] m high rise for an eye at [o] m?',
        '2.08 * (sqrt(h) + sqrt(o))',
        { values: values({ h: [16, 64, 4], o: [[2, 3, 4]] }), units: distance, digits: 2 },
      ),
    ],
  ]),
  ...inCategory('Steering & sailing rules', [
    [
      'Who keeps clear',
      'N8',
      'medium',
      match('Who keeps clear?', {
        'port tack meets starboard tack': 'the boat on port tack',
        'same tack, one to windward': 'the windward boat',
        'one overtakes another': 'the overtaking vessel',
        'power meets sail': 'the power vessel',
      }),
    ],
    [
      'Signals of intent',
      'N8',
      'easy',
      match('What does a power vessel say by these blasts?', {
        'one short': 'I turn to starboard',
        'two short': 'I turn to port',
        'three short': 'my engines go astern',
        'five short': 'I doubt what you are doing',
      }),
    ],
    [
      'Crossing at night',
      'N8',
      'hard',
      one(
        'On a steady bearing you see a red sidelight and two masthead lights, the lower to the left of the higher. What is it doing?',
        'A power vessel of 50 m or more crossing from right to left',
        ['A sailing vessel going the same way', 'A power vessel crossing from left to right', 'A vessel at anchor'],
        'None of these',
      ),
    ],
    [
      'Steady bearing',
      'N8',
      'easy',
      gaps('If the compass [a] of an approaching vessel does not change, there is a risk of [b].', {
        a: 'bearing',
        b: 'collision',
      }),
    ],
    [
      'Narrow channel',
      'N8',
      'medium',
      several(
        'In a narrow channel, a vessel shall',
        ['keep to the starboard side as far as is safe', 'avoid anchoring, if it can'],
        ['keep to the middle', 'always give way to sail'],
        'all-or-nothing',
      ),
    ],
    [
      'Overtaking ends',
      'N8',
      'medium',
      statement(
        'An overtaking vessel becomes the stand-on vessel once it is abeam of the other.',
        false,
        'It keeps clear until it is finally past and clear.',
      ),
    ],
  ]),
  ...inCategory('Weather', [
    [
      'Wind and pressure',
      'N9',
      'medium',
      gaps(
        'In the northern hemisphere, with your back to the wind, low pressure lies on your [s]. The closer the isobars, the [w] the wind.',
        { s: { pick: ['left', 'right'], row: true }, w: { pick: ['stronger', 'weaker', 'warmer'] } },
      ),
    ],
    [
      'Passing of a front',
      'N9',
      'medium',
      order('Put in order what passes as a depression goes by to the north.', [
        'High thin cloud',
        'Falling pressure and steady rain',
        'Warm sector with drizzle',
        'A sharp veer with squalls',
        'Showers and good visibility',
      ]),
    ],
    [
      'Beaufort in words',
      'N9',
      'easy',
      match(
        'Match force and name.',
        { 'force 3': 'gentle breeze', 'force 5': 'fresh breeze', 'force 6': 'strong breeze', 'force 8': 'gale' },
        ['storm'],
      ),
    ],
    [
      'Sea fog',
      'N9',
      'hard',
      words(
        'Which kind of fog forms when warm, moist air moves over a cold sea?',
        ['advection fog', 'advection', ['sea fog', 0.5]],
        2,
      ),
    ],
    ['Imminent', 'N9', 'easy', number('In a shipping forecast, “imminent” means within how many hours?', '6')],
    ['Backing', 'N9', 'easy', statement('A wind that goes from south to south-east has backed.', true)],
    [
      'Dew point',
      'N9',
      'medium',
      several(
        'Which signs make fog likely?',
        ['Air cooling towards its dew point', 'A sea colder than the air above it'],
        ['A strong dry wind', 'A rising barometer alone'],
      ),
    ],
  ]),
  ...inCategory('Passage planning', [
    [
      'Time for a leg',
      'N2',
      'easy',
      number('A leg of [d] nm at [v] kn: how many minutes does it take?', 'round(60 * d / v, 1)', {
        values: values({ d: [4, 18, 0.5], v: [[4, 5, 6, 8]] }),
        when: ['mod(60 * d, v) == 0'],
        within: 1,
        also: [['d / v', 0.02, 0.5, 'That is in hours.']],
        solution: '$t = \\frac{60 \\cdot d}{v}$ with d = [d] nm and v = [v] kn.',
      }),
    ],
    [
      'Four stages',
      'N10',
      'easy',
      order(
        'Put the stages of a passage plan in order.',
        ['Appraisal', 'Planning', 'Execution', 'Monitoring'],
        'all-or-nothing',
      ),
    ],
    [
      'Fuel needed',
      'N2',
      'medium',
      number(
        'The engine burns [f.1] l an hour at [v] kn. How many litres does a passage of [d] nm take, with a third in reserve?',
        'f * d / v * 4 / 3',
        {
          values: values({ f: [1.8, 3.6, 0.2], v: [[5, 6]], d: [18, 48, 6] }),
          percent: 2,
          also: [['f * d / v', 0.3, 0.5, 'The reserve is missing.']],
        },
      ),
    ],
    [
      'What a plan names',
      'N10',
      'medium',
      several(
        'Which belong in a passage plan?',
        ['Ports of refuge', 'Tidal gates', 'Limits of the crew'],
        ['The price of the moorings', 'The colour of the hull'],
        'each-judged',
      ),
    ],
    [
      'Tidal gate',
      'N10',
      'medium',
      words(
        'What is a place called that can be passed only at some states of the tide?',
        ['tidal gate', 'a tidal gate', ['gate', 0.5]],
        1,
      ),
    ],
    [
      'Brief the crew',
      'N10',
      'hard',
      essay(
        'You leave at dusk with two people who have not sailed at night. Write the briefing you give them.',
        'Harness and jacket before dark; clipped on whenever on deck alone; who keeps which watch and when to wake the skipper; where lights, radio, flares and first aid are; how to stop the boat; what is expected of wind, tide and shipping; food and warm clothing; the alternative if someone is unwell.',
        [
          ['Safety gear and rules on deck', 2],
          ['Watches and when to wake the skipper', 1],
          ['What to expect on the way', 1],
        ],
        { format: 'rich' },
      ),
    ],
    [
      'Your own plan',
      'N10',
      'hard',
      essay(
        'Hand in a plan for a day passage of your choice: a table of legs, and in a few lines the tidal gates and the alternatives.',
        'Legs with course, distance and time; gates with their windows; at least two alternatives with entry conditions; sunrise and sunset; limits.',
        [
          ['Legs worked correctly', 2],
          ['Gates and alternatives', 2],
          ['Clear to someone else', 1],
        ],
        {
          files: { most: 2, kinds: ['pdf', 'picture', 'spreadsheet'], megabytes: 10 },
          words: { least: null, most: 150 },
        },
      ),
    ],
  ]),
  ...inCategory('Safety at sea', [
    [
      'Distress call',
      'N11',
      'easy',
      order('Put the parts of a distress call by voice in order.', [
        'Mayday three times',
        'This is, and the name three times',
        'Mayday and the name',
        'Position',
        'Nature of distress',
        'Help wanted and persons on board',
        'Over',
      ]),
    ],
    [
      'Fire in the galley',
      'N11',
      'medium',
      several(
        'A pan of oil burns in the galley. What do you do?',
        ['Turn off the gas', 'Cover it with a fire blanket'],
        ['Throw water on it', 'Carry it on deck'],
        'all-or-nothing',
      ),
    ],
    [
      'Urgency word',
      'N11',
      'easy',
      words('Which word, spoken three times, begins an urgency call?', ['pan-pan', ['pan', 0.5]], 0),
    ],
    [
      'Cold water',
      'N11',
      'medium',
      gaps('In cold water the first danger is cold [a] in the first minutes; later comes [b].', {
        a: 'shock',
        b: 'hypothermia',
      }),
    ],
    ['Radio channel', 'N11', 'easy', number('On which VHF channel is a distress call made by voice?', '16')],
    [
      'Name a rescue turn',
      'N11',
      'hard',
      {
        ...words(
          'Name a manoeuvre for coming back to a person overboard under sail, and say in a few words when you would use it.',
          [],
          0,
        ),
      },
    ],
    [
      'Liferaft',
      'N11',
      'medium',
      statement('You step up into a liferaft, not down.', true, 'The boat is left only when it is going down.'),
    ],
  ]),
  ...inCategory('Course survey', [
    ['Pace of the course', 'N10', null, scale('The pace of the course was', 'too slow', 'too fast', 5)],
    [
      'Worth recommending',
      'N10',
      null,
      scale('Would you recommend this course to a friend?', 'on no account', 'without hesitation', 11),
    ],
    [
      'First sail',
      'N10',
      null,
      {
        type: 'date',
        stem: {
          type: 'doc',
          content: [
            {
              type: 'paragraph',
              content: [{ type: 'text', text: 'When did you first sail at night, as near as you remember?' }],
            },
          ],
        },
        earliest: '1940-01-01',
        latest: null,
        feedback: {},
      },
    ],
  ]),
];

/** Small drawings for questions that ask about something seen, made for the demo. Each is a whole SVG file. */
const frame = (width: number, height: number, inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#ffffff"/>${inner}</svg>`;

const night = (inner: string) =>
  frame(
    320,
    200,
    `<rect width="320" height="200" fill="#1c2330"/><line x1="0" y1="150" x2="320" y2="150" stroke="#566070"/>${inner}`,
  );
const lamp = (x: number, y: number, colour: string) =>
  `<circle cx="${x}" cy="${y}" r="16" fill="${colour}" opacity="0.25"/><circle cx="${x}" cy="${y}" r="7" fill="${colour}"/>`;
const cone = (y: number, up: boolean) => `<path d="M60 ${y} h40 l-20 ${up ? -34 : 34} z" fill="#1c2330"/>`;
const pillar = (bands: readonly string[]) =>
  bands
    .map(
      (colour, i) =>
        `<rect x="62" y="${100 + (i * 120) / bands.length}" width="36" height="${120 / bands.length}" fill="${colour}" stroke="#1c2330"/>`,
    )
    .join('');

export type Figure = {
  name: string;
  in: string;
  objective: string;
  difficulty: 'easy' | 'medium' | 'hard';
  /** What stands beside the drawing, and the words for those who cannot see it. */
  ask: string;
  alt: string;
  svg: string;
  right: string;
  wrong: string[];
  solution: string;
};

export const figures: Figure[] = [
  {
    name: 'Topmark: points up',
    in: 'Lights, buoys & sounds',
    objective: 'N7',
    difficulty: 'easy',
    ask: 'You meet this buoy by day. Which cardinal mark is it?',
    alt: 'A pillar buoy, black above yellow, with a topmark of two black cones, both pointing up.',
    svg: frame(
      160,
      250,
      `${cone(48, true)}${cone(90, true)}${pillar(['#1c2330', '#e5b700'])}<path d="M40 220 h80 l-16 22 h-48 z" fill="#e5b700" stroke="#1c2330"/>`,
    ),
    right: 'A north cardinal mark',
    wrong: ['A south cardinal mark', 'An east cardinal mark', 'A west cardinal mark'],
    solution: 'Both cones point up, to the north; the black band is where the cones point: on top.',
  },
  {
    name: 'Topmark: base to base',
    in: 'Lights, buoys & sounds',
    objective: 'N7',
    difficulty: 'medium',
    ask: 'On which side do you pass this buoy?',
    alt: 'A pillar buoy, black, yellow and black, with a topmark of two black cones, the upper pointing up and the lower down, base to base.',
    svg: frame(
      160,
      250,
      `${cone(48, true)}${cone(58, false)}${pillar(['#1c2330', '#e5b700', '#1c2330'])}<path d="M40 220 h80 l-16 22 h-48 z" fill="#1c2330"/>`,
    ),
    right: 'To the east of it',
    wrong: ['To the west of it', 'To the north of it', 'On either side'],
    solution: 'Cones base to base mark an east cardinal mark: safe water lies to the east of it.',
  },
  {
    name: 'Lights ahead: red over white',
    in: 'Lights, buoys & sounds',
    objective: 'N7',
    difficulty: 'medium',
    ask: 'At night you see these all-round lights of a vessel. What is she doing?',
    alt: 'A night scene: a red light above a white light, one over the other, above the horizon.',
    svg: night(`${lamp(160, 70, '#e0442e')}${lamp(160, 115, '#ffffff')}`),
    right: 'Fishing, other than trawling',
    wrong: ['Trawling', 'Carrying a pilot', 'She is not under command'],
    solution:
      'Red over white is a vessel fishing other than by trawling; green over white would be trawling, white over red a pilot.',
  },
  {
    name: 'Lights ahead: both sidelights',
    in: 'Lights, buoys & sounds',
    objective: 'N8',
    difficulty: 'easy',
    ask: 'Under power at night you see this right ahead. What do you do?',
    alt: 'A night scene: a white light above a green light on the left and a red light on the right, level with each other.',
    svg: night(`${lamp(160, 60, '#ffffff')}${lamp(120, 115, '#2fa36b')}${lamp(200, 115, '#e0442e')}`),
    right: 'Alter course to starboard',
    wrong: ['Keep course and speed', 'Alter course to port', 'Stop and wait'],
    solution: 'Both sidelights and a masthead light: a power-driven vessel meeting end on. Each alters to starboard.',
  },
];

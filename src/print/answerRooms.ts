import { richText } from '../core/base/rich';
import { choiceLabel } from '../core/question/choiceLabel';
import type { ShownQuestion, ViewOf } from '../core/question/student';
import type { QuestionType } from '../core/question/types';
import { type PrintBlock, type PrintInline, words } from './printNodes';
import { richInLine, richNodes, type Setting } from './richNodes';

type Room<View> = (view: View, right: readonly string[], setting: Setting) => PrintBlock[];

const box = (round: boolean, full = false): PrintInline => ({ k: 'box', round, full });
const text = (s: string): PrintInline => ({ k: 't', s });
const space = (width: number): PrintInline => ({ k: 'space', width });
const ruled = (count: number, width?: number): PrintBlock => ({
  k: 'lines',
  count,
  height: 20,
  ...(width ? { width } : {}),
});

/** How many lines a written answer gets: one for every twelve words it may have, within a page. */
const linesFor = (count: number | null): number => Math.min(30, Math.max(8, Math.ceil((count ?? 120) / 12)));

type ChoicesView = ViewOf<'single-choice' | 'multiple-choice'>;

/** Whether the choices are mere labels, as those of an item whose question stands elsewhere: they stand side by side. */
const inOneRow = (view: ChoicesView): boolean =>
  view.labels === 'none' &&
  view.choices.every((choice) => richText(choice.content).length <= 2) &&
  view.choices.length <= 12;

/** What stands in one paragraph; null where more does. */
const inLines = ([first, ...others]: PrintBlock[]): PrintInline[] | null =>
  first?.k === 'p' && others.length === 0 ? first.c : null;

/** Boxes beside the choices: round where one is picked, square where several may be. */
const choices =
  (round: boolean): Room<ChoicesView> =>
  (view, right, setting) => {
    if (inOneRow(view))
      return [
        {
          k: 'p',
          c: view.choices.flatMap((choice) => [
            box(round, right.includes(choice.key)),
            text(richText(choice.content)),
            space(14),
          ]),
        },
      ];
    const mark = (key: string): PrintInline[] => [box(round, right.includes(key))];
    const labelOf = (i: number) => (view.labels === 'none' ? null : choiceLabel(view.labels, i));
    const contents = view.choices.map((choice) => richNodes(choice.content, setting));
    const lines = contents.map(inLines);
    // Most choices are a few words: set as paragraphs that hang, they take a third of the memory of a grid.
    if (lines.every((line) => line !== null))
      return view.choices.map(({ key }, i): PrintBlock => {
        const label = labelOf(i);
        const before: PrintInline[] = [
          { k: 'cell', width: 16, c: mark(key) },
          ...(label === null ? [] : [{ k: 'cell' as const, width: 17, c: [text(label)] }]),
        ];
        return { k: 'p', hang: label === null ? 16 : 33, c: [...before, ...(lines[i] as PrintInline[])] };
      });
    return [
      {
        k: 'columns',
        widths: view.labels === 'none' ? [16, 0] : [16, 17, 0],
        above: 10,
        rowGap: 10,
        c: view.choices.flatMap(({ key }, i): PrintBlock[][] => {
          const label = labelOf(i);
          return [[{ k: 'p', c: mark(key) }], ...(label === null ? [] : [[words(label)]]), contents[i] as PrintBlock[]];
        }),
      },
    ];
  };

/** The room that a type leaves for its answer on paper, and where its key is printed the boxes that are filled. */
const rooms: { [Type in QuestionType]: Room<ViewOf<Type>> } = {
  'single-choice': choices(true),
  'multiple-choice': choices(false),
  'true-false': (_, right) => [
    {
      k: 'p',
      c: [
        box(true, right.includes('true')),
        text('True'),
        space(20),
        box(true, right.includes('false')),
        text('False'),
      ],
    },
  ],
  'short-text': () => [ruled(1)],
  numeric: (view) => [
    {
      k: 'columns',
      widths: [140, 0],
      gap: 6,
      c: [
        [ruled(1)],
        view.unit === 'none'
          ? []
          : [
              {
                k: 'stack',
                above: 12,
                c: [
                  words(view.unit === 'typed' ? 'with its unit' : `unit: ${view.unit.join(' / ')}`, {
                    size: 9,
                    quiet: true,
                  }),
                ],
              },
            ],
      ],
    },
  ],
  'gap-fill': (view, right, setting) =>
    view.gaps.flatMap((gap, i): PrintBlock[] =>
      gap.kind === 'pick'
        ? [
            {
              k: 'columns',
              widths: [22, 0],
              above: 10,
              c: [
                [words(`(${i + 1})`, { size: 10 })],
                [
                  {
                    k: 'p',
                    size: 10,
                    c: gap.options.flatMap((option) => [
                      box(true, right.includes(`${gap.id}/${option.key}`)),
                      ...richInLine(option.content, setting),
                      space(12),
                    ]),
                  },
                ],
              ],
            },
          ]
        : [],
    ),
  matching: (view, _, setting) => [
    ...view.prompts.map(
      (prompt): PrintBlock => ({
        k: 'columns',
        widths: [42, 0],
        above: 12,
        c: [[{ k: 'p', c: [{ k: 'place', width: 34, line: true }] }], richNodes(prompt.content, setting)],
      }),
    ),
    {
      k: 'stack',
      above: 10,
      c: view.options.map((option, i) => words(`${choiceLabel(undefined, i)} ${option.text}`)),
    },
  ],
  ordering: (view, _, setting) =>
    view.items.map(
      (item): PrintBlock => ({
        k: 'columns',
        widths: [30, 0],
        above: 12,
        c: [[{ k: 'p', c: [{ k: 'place', width: 22, line: false }] }], richNodes(item.content, setting)],
      }),
    ),
  written: (view) => [ruled(linesFor(view.words.most))],
  'rating-scale': (view) => [
    {
      k: 'p',
      size: 10,
      c: [
        text(view.low),
        space(8),
        ...Array.from({ length: view.steps }, (_, i) => [box(true), text(String(i + 1)), space(6)]).flat(),
        text(view.high),
        ...(view.cannotSay ? [space(16), box(true), text('cannot say')] : []),
      ],
    },
  ],
  date: () => [ruled(1, 140)],
};

/** The room for the answer to a question of any type. */
export const answerRoom = (view: ShownQuestion, right: readonly string[], setting: Setting): PrintBlock[] =>
  (rooms[view.type] as Room<ShownQuestion>)(view, right, setting);

/** Types whose room may run over a page's end. */
const running = new Set<QuestionType>(['written']);
/** Whether the room of a type may run over a page's end. */
export const runsOver = (type: QuestionType): boolean => running.has(type);

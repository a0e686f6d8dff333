// biome-ignore-all lint/suspicious/noArrayIndexKey: a page is printed once; nothing on it changes its order
import { Text, View } from '@react-pdf/renderer';
import type { ReactNode } from 'react';
import { palette } from '../core/base/palette';
import { richText } from '../core/base/rich';
import { choiceLabel } from '../core/question/choiceLabel';
import type { ShownQuestion, ViewOf } from '../core/question/student';
import type { QuestionType } from '../core/question/types';
import { RichPdf } from './RichPdf';
import { Words } from './Words';

const size = 11;

/** A box to be ticked; a right one is filled where the key is printed. */
const Box = ({ round, right }: { round?: boolean; right?: boolean }) => (
  <View
    style={{
      width: 10,
      height: 10,
      marginTop: 3,
      marginRight: 6,
      border: `0.8pt solid ${palette.ink}`,
      borderRadius: round ? 5 : 0,
      backgroundColor: right ? palette.ink : palette.white,
    }}
  />
);

const Row = ({ children, gap = 3 }: { children: ReactNode; gap?: number }) => (
  <View style={{ flexDirection: 'row', marginTop: gap }} wrap={false}>
    {children}
  </View>
);

const Ruled = ({ lines, width = '100%' }: { lines: number; width?: string | number }) => (
  <View style={{ marginTop: 4 }}>
    {Array.from({ length: lines }, (_, i) => (
      <View key={i} style={{ height: 20, width, borderBottom: `0.5pt solid ${palette.edge}` }} />
    ))}
  </View>
);

/** How many lines a written answer gets: one for every twelve words it may have, within a page. */
const linesFor = (words: number | null): number => Math.min(30, Math.max(8, Math.ceil((words ?? 120) / 12)));

type ChoicesView = ViewOf<'single-choice' | 'multiple-choice'>;

/** Whether the choices are mere labels, as those of an item whose question stands elsewhere: they stand side by side. */
const inOneRow = (view: ChoicesView): boolean =>
  view.labels === 'none' &&
  view.choices.every((choice) => richText(choice.content).length <= 2) &&
  view.choices.length <= 12;

/** Boxes beside the choices: round where one is picked, square where several may be. */
const choices =
  (round: boolean) =>
  (view: ChoicesView, right: readonly string[]): ReactNode => {
    if (inOneRow(view))
      return (
        <Row>
          {view.choices.map((choice) => (
            <View key={choice.key} style={{ flexDirection: 'row', marginRight: 14 }}>
              <Box round={round} right={right.includes(choice.key)} />
              <Text style={{ fontSize: size, lineHeight: 1.4 }}>{richText(choice.content)}</Text>
            </View>
          ))}
        </Row>
      );
    return view.choices.map((choice, i) => (
      <Row key={choice.key}>
        <Box round={round} right={right.includes(choice.key)} />
        {view.labels !== 'none' && (
          <Text style={{ minWidth: 16, fontSize: size, lineHeight: 1.4 }}>{choiceLabel(view.labels, i)}</Text>
        )}
        <View style={{ flex: 1 }}>
          <RichPdf rich={choice.content} />
        </View>
      </Row>
    ));
  };

/** The room that a type leaves for its answer on paper, and where its key is printed the boxes that are filled. */
const rooms: { [Type in QuestionType]: (view: ViewOf<Type>, right: readonly string[]) => ReactNode } = {
  'single-choice': choices(true),
  'multiple-choice': choices(false),
  'true-false': (_, right) => (
    <Row>
      {['true', 'false'].map((word) => (
        <View key={word} style={{ flexDirection: 'row', marginRight: 20 }}>
          <Box round right={right.includes(word)} />
          <Text style={{ fontSize: size, lineHeight: 1.4 }}>{word === 'true' ? 'True' : 'False'}</Text>
        </View>
      ))}
    </Row>
  ),
  'short-text': () => <Ruled lines={1} />,
  numeric: (view) => (
    <Row>
      <Ruled lines={1} width={140} />
      {view.unit !== 'none' && (
        <Text style={{ fontSize: 9, color: palette.ink2, marginTop: 14, marginLeft: 6 }}>
          {view.unit === 'typed' ? 'with its unit' : `unit: ${view.unit.join(' / ')}`}
        </Text>
      )}
    </Row>
  ),
  'gap-fill': (view, right) =>
    view.gaps.map((gap, i) =>
      gap.kind === 'pick' ? (
        <View key={gap.id} style={{ flexDirection: 'row', flexWrap: 'wrap', marginTop: 3 }}>
          <Text style={{ fontSize: 10, width: 22, marginTop: 1 }}>({i + 1})</Text>
          {gap.options.map((option) => (
            <View key={option.key} style={{ flexDirection: 'row', marginRight: 12 }}>
              <Box round right={right.includes(`${gap.id}/${option.key}`)} />
              <RichPdf rich={option.content} size={10} />
            </View>
          ))}
        </View>
      ) : null,
    ),
  matching: (view) => (
    <View>
      {view.prompts.map((prompt) => (
        <Row key={prompt.key} gap={4}>
          <View style={{ width: 34, height: 16, borderBottom: `0.5pt solid ${palette.edge}`, marginRight: 8 }} />
          <View style={{ flex: 1 }}>
            <RichPdf rich={prompt.content} />
          </View>
        </Row>
      ))}
      <View style={{ marginTop: 6 }}>
        {view.options.map((option, i) => (
          <Text key={option.key} style={{ fontSize: size, lineHeight: 1.4 }}>
            {choiceLabel(undefined, i)} {option.text}
          </Text>
        ))}
      </View>
    </View>
  ),
  ordering: (view) =>
    view.items.map((item) => (
      <Row key={item.key} gap={4}>
        <View style={{ width: 22, height: 16, border: `0.5pt solid ${palette.edge}`, marginRight: 8 }} />
        <View style={{ flex: 1 }}>
          <RichPdf rich={item.content} />
        </View>
      </Row>
    )),
  written: (view) => <Ruled lines={linesFor(view.words.most)} />,
  'rating-scale': (view) => (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', marginTop: 3 }}>
      <Words style={{ fontSize: 10, marginRight: 8, marginTop: 2 }}>{view.low}</Words>
      {Array.from({ length: view.steps }, (_, i) => (
        <View key={i} style={{ flexDirection: 'row', marginRight: 6 }}>
          <Box round />
          <Text style={{ fontSize: 10, marginTop: 2 }}>{i + 1}</Text>
        </View>
      ))}
      <Words style={{ fontSize: 10, marginLeft: 2, marginTop: 2 }}>{view.high}</Words>
      {view.cannotSay && (
        <View style={{ flexDirection: 'row', marginLeft: 16 }}>
          <Box round />
          <Text style={{ fontSize: 10, marginTop: 2 }}>cannot say</Text>
        </View>
      )}
    </View>
  ),
  date: () => <Ruled lines={1} width={140} />,
};

/** The room for the answer to a question of any type. */
export const answerRoom = (view: ShownQuestion, right: readonly string[]): ReactNode =>
  (rooms[view.type] as (view: ShownQuestion, right: readonly string[]) => ReactNode)(view, right);

/** Types whose room may run over a page's end. */
const running = new Set<QuestionType>(['written']);
export const runsOver = (type: QuestionType): boolean => running.has(type);

// biome-ignore-all lint/suspicious/noArrayIndexKey: a page is printed once; nothing on it changes its order
import { Text, View } from '@react-pdf/renderer';
import type { ReactNode } from 'react';
import { richFromText, richText } from '../core/base/rich';
import type { PrintedSlot } from '../core/exam/printedPaper';
import { choiceLabel } from '../core/question/choiceLabel';
import type { ShownQuestion } from '../core/question/student';
import { RichPdf } from './RichPdf';
import { Words } from './Words';

const ink = '#1C2330';
const grey = '#566070';
const hairline = '#857C6B';
const size = 11;

/** A box to be ticked; a right one is filled where the key is printed. */
const Box = ({ round, right }: { round?: boolean; right?: boolean }) => (
  <View
    style={{
      width: 10,
      height: 10,
      marginTop: 3,
      marginRight: 6,
      border: `0.8pt solid ${ink}`,
      borderRadius: round ? 5 : 0,
      backgroundColor: right ? ink : '#FFFFFF',
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
      <View key={i} style={{ height: 20, width, borderBottom: `0.5pt solid ${hairline}` }} />
    ))}
  </View>
);

/** How many lines a written answer gets: one for every twelve words it may have, within a page. */
const linesFor = (words: number | null): number => Math.min(30, Math.max(8, Math.ceil((words ?? 120) / 12)));

/** Long questions and the lines of written answers may run over a page's end; all others stand on one page. */
const mayBreak = ({ view, key }: PrintedSlot): boolean =>
  view.type === 'written' || JSON.stringify([view, key]).length > 6_000;

/** One question with room for its answer. */
export function QuestionPdf({ slot }: { slot: PrintedSlot }) {
  const { view, key } = slot;
  const numbers = new Map(view.type === 'gap-fill' ? view.gaps.map((gap, i) => [gap.id, i + 1]) : []);
  return (
    <View style={{ marginTop: 12 }} wrap={mayBreak(slot)}>
      <View style={{ flexDirection: 'row' }}>
        <Text style={{ width: 24, fontSize: size, fontWeight: 600, lineHeight: 1.4 }}>{slot.number}</Text>
        <View style={{ flex: 1 }}>
          <RichPdf rich={view.stem} gap={(id) => ` (${numbers.get(id)}) ________ `} />
        </View>
        <Text style={{ width: 70, fontSize: 9, color: grey, textAlign: 'right', marginTop: 2 }}>{slot.points}</Text>
      </View>
      {slot.required && (
        <Text style={{ fontSize: 9, color: grey, marginLeft: 24, marginTop: 2 }}>
          This question has to be answered.
        </Text>
      )}
      <View style={{ marginLeft: 24, marginRight: 70 }}>
        <AnswerRoom view={view} right={key?.right ?? []} />
        {key && (
          <View style={{ marginTop: 5, borderLeft: `2pt solid ${ink}`, paddingLeft: 6 }}>
            {key.text !== '' && <RichPdf rich={richFromText(`Right: ${key.text}`)} size={10} />}
            {key.solution && <RichPdf rich={key.solution} size={10} />}
          </View>
        )}
      </View>
    </View>
  );
}

/** Whether the choices are mere labels, as those of an item whose question stands elsewhere: they stand side by side. */
const inOneRow = (view: Extract<ShownQuestion, { type: 'single-choice' | 'multiple-choice' }>): boolean =>
  view.labels === 'none' &&
  view.choices.every((choice) => richText(choice.content).length <= 2) &&
  view.choices.length <= 12;

function AnswerRoom({ view, right }: { view: ShownQuestion; right: readonly string[] }): ReactNode {
  switch (view.type) {
    case 'single-choice':
    case 'multiple-choice':
      if (inOneRow(view))
        return (
          <Row>
            {view.choices.map((choice) => (
              <View key={choice.key} style={{ flexDirection: 'row', marginRight: 14 }}>
                <Box round={view.type === 'single-choice'} right={right.includes(choice.key)} />
                <Text style={{ fontSize: size, lineHeight: 1.4 }}>{richText(choice.content)}</Text>
              </View>
            ))}
          </Row>
        );
      return view.choices.map((choice, i) => (
        <Row key={choice.key}>
          <Box round={view.type === 'single-choice'} right={right.includes(choice.key)} />
          {view.labels !== 'none' && (
            <Text style={{ minWidth: 16, fontSize: size, lineHeight: 1.4 }}>{choiceLabel(view.labels, i)}</Text>
          )}
          <View style={{ flex: 1 }}>
            <RichPdf rich={choice.content} />
          </View>
        </Row>
      ));
    case 'true-false':
      return (
        <Row>
          {['true', 'false'].map((word) => (
            <View key={word} style={{ flexDirection: 'row', marginRight: 20 }}>
              <Box round right={right.includes(word)} />
              <Text style={{ fontSize: size, lineHeight: 1.4 }}>{word === 'true' ? 'True' : 'False'}</Text>
            </View>
          ))}
        </Row>
      );
    case 'short-text':
      return <Ruled lines={1} />;
    case 'numeric':
      return (
        <Row>
          <Ruled lines={1} width={140} />
          {view.unit !== 'none' && (
            <Text style={{ fontSize: 9, color: grey, marginTop: 14, marginLeft: 6 }}>
              {view.unit === 'typed' ? 'with its unit' : `unit: ${view.unit.join(' / ')}`}
            </Text>
          )}
        </Row>
      );
    case 'date':
      return <Ruled lines={1} width={140} />;
    case 'written':
      return <Ruled lines={linesFor(view.words.most)} />;
    case 'rating-scale':
      return (
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
      );
    case 'matching':
      return (
        <View>
          {view.prompts.map((prompt) => (
            <Row key={prompt.key} gap={4}>
              <View style={{ width: 34, height: 16, borderBottom: `0.5pt solid ${hairline}`, marginRight: 8 }} />
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
      );
    case 'ordering':
      return view.items.map((item) => (
        <Row key={item.key} gap={4}>
          <View style={{ width: 22, height: 16, border: `0.5pt solid ${hairline}`, marginRight: 8 }} />
          <View style={{ flex: 1 }}>
            <RichPdf rich={item.content} />
          </View>
        </Row>
      ));
    case 'gap-fill':
      return view.gaps.map((gap, i) =>
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
      );
  }
}

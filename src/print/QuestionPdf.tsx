// biome-ignore-all lint/suspicious/noArrayIndexKey: a page is printed once; nothing on it changes its order
import { Text, View } from '@react-pdf/renderer';
import { palette } from '../core/base/palette';
import { richFromText } from '../core/base/rich';
import type { PrintedSlot } from '../core/exam/printedPaper';
import { answerRoom, runsOver } from './answerRooms';
import { RichPdf } from './RichPdf';

const size = 11;

/** Long questions and the lines of written answers may run over a page's end; all others stand on one page. */
const mayBreak = ({ view, key }: PrintedSlot): boolean =>
  runsOver(view.type) || JSON.stringify([view, key]).length > 6_000;

/** One question with room for its answer. */
export function QuestionPdf({ slot }: { slot: PrintedSlot }) {
  const { view, key } = slot;
  const numbers = new Map('gaps' in view ? view.gaps.map((gap, i) => [gap.id, i + 1]) : []);
  return (
    <View style={{ marginTop: 12 }} wrap={mayBreak(slot)}>
      <View style={{ flexDirection: 'row' }}>
        <Text style={{ width: 24, fontSize: size, fontWeight: 600, lineHeight: 1.4 }}>{slot.number}</Text>
        <View style={{ flex: 1 }}>
          <RichPdf rich={view.stem} gap={(id) => ` (${numbers.get(id)}) ________ `} />
        </View>
        <Text style={{ width: 70, fontSize: 9, color: palette.ink2, textAlign: 'right', marginTop: 2 }}>
          {slot.points}
        </Text>
      </View>
      {slot.required && (
        <Text style={{ fontSize: 9, color: palette.ink2, marginLeft: 24, marginTop: 2 }}>
          This question has to be answered.
        </Text>
      )}
      <View style={{ marginLeft: 24, marginRight: 70 }}>
        {answerRoom(view, key?.right ?? [])}
        {key && (
          <View style={{ marginTop: 5, borderLeft: `2pt solid ${palette.ink}`, paddingLeft: 6 }}>
            {key.text !== '' && <RichPdf rich={richFromText(`Right: ${key.text}`)} size={10} />}
            {key.solution && <RichPdf rich={key.solution} size={10} />}
          </View>
        )}
      </View>
    </View>
  );
}

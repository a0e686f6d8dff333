// biome-ignore-all lint/suspicious/noArrayIndexKey: a page is printed once; nothing on it changes its order
import { G, Image, Path, Rect, Svg, Text, View } from '@react-pdf/renderer';
import { createContext, type ReactNode, useContext } from 'react';
import { palette } from '../core/base/palette';
import type { Rich, RichBlock, RichInline, RichMark } from '../core/base/rich';
import type { PrintedPicture } from '../core/exam/printedPaper';
import { runsOf } from './fonts';
import { drawMath, type MathDrawing } from './mathSvg';
import { Words } from './Words';

const lineHeight = 1.4;
/** How far the line of the letters lies above the foot of their box, in em of these fonts. */
const lineAboveFoot = 0.43;
const widestPicture = 400;
const highestPicture = 260;

export const Pictures = createContext<Record<string, PrintedPicture>>({});

type Gaps = (id: string) => string;
type Props = { rich: Rich; size?: number; gap?: Gaps };

/** Rich content on a printed page: paragraphs, lists, tables, code, pictures and mathematics. */
export const RichPdf = ({ rich, size = 11, gap = () => '________' }: Props) => (
  <View>
    {rich.content.map((block, i) => (
      <Block key={i} block={block} size={size} gap={gap} />
    ))}
  </View>
);

function Block({ block, size, gap }: { block: RichBlock; size: number; gap: Gaps }): ReactNode {
  switch (block.type) {
    case 'paragraph':
      return <Paragraph inline={block.content ?? []} size={size} gap={gap} />;
    case 'codeBlock':
      return (
        <Text style={{ fontFamily: 'Courier', fontSize: size - 1, marginVertical: 3 }}>
          {(block.content ?? []).map((one) => one.text).join('')}
        </Text>
      );
    case 'media':
      return <Picture hash={block.attrs.hash} alt={block.attrs.alt} kind={block.attrs.kind} size={size} />;
    case 'table':
      return (
        <View
          style={{
            borderTop: `0.5pt solid ${palette.edge}`,
            borderLeft: `0.5pt solid ${palette.edge}`,
            marginVertical: 4,
          }}
        >
          {block.content.map((row, r) => (
            <View key={r} style={{ flexDirection: 'row' }} wrap={false}>
              {row.content.map((cell, c) => (
                <View
                  key={c}
                  style={{
                    flex: 1,
                    padding: 3,
                    borderRight: `0.5pt solid ${palette.edge}`,
                    borderBottom: `0.5pt solid ${palette.edge}`,
                    fontWeight: cell.type === 'tableHeader' ? 600 : 400,
                  }}
                >
                  <RichPdf rich={{ type: 'doc', content: cell.content }} size={size - 1} gap={gap} />
                </View>
              ))}
            </View>
          ))}
        </View>
      );
    case 'bulletList':
    case 'orderedList':
      return (
        <View style={{ marginVertical: 2 }}>
          {block.content.map((item, i) => (
            <View key={i} style={{ flexDirection: 'row' }}>
              <Text style={{ width: 18, fontSize: size, lineHeight }}>
                {block.type === 'orderedList' ? `${i + 1}.` : '•'}
              </Text>
              <View style={{ flex: 1 }}>
                <RichPdf rich={{ type: 'doc', content: item.content }} size={size} gap={gap} />
              </View>
            </View>
          ))}
        </View>
      );
  }
}

function Picture({ hash, alt, kind, size }: { hash: string; alt: string; kind: string; size: number }) {
  const picture = useContext(Pictures)[hash];
  if (!picture) return <Text style={{ fontSize: size, color: palette.edge }}>[{alt || kind}]</Text>;
  const scale = Math.min(1, widestPicture / picture.width, highestPicture / picture.height);
  return (
    <Image
      src={{ data: Buffer.from(picture.data), format: 'png' }}
      style={{ width: picture.width * scale, height: picture.height * scale, marginVertical: 4 }}
    />
  );
}

function styleOf(marks: readonly RichMark[] = [], size: number) {
  const has = (type: RichMark['type']) => marks.some((mark) => mark.type === type);
  const raised = has('superscript') ? 'super' : has('subscript') ? 'sub' : undefined;
  return {
    fontWeight: has('bold') ? 600 : undefined,
    fontStyle: has('italic') ? ('italic' as const) : undefined,
    fontFamily: has('code') ? 'Courier' : undefined,
    textDecoration: has('underline') || has('link') ? ('underline' as const) : undefined,
    ...(raised ? { verticalAlign: raised as 'super' | 'sub', fontSize: size * 0.7 } : {}),
  };
}

const wordsOf = (inline: RichInline, gap: Gaps): string => {
  if (inline.type === 'text') return inline.text;
  if (inline.type === 'hardBreak') return '\n';
  if (inline.type === 'gap') return gap(inline.attrs.id);
  return inline.type === 'math' ? inline.attrs.tex : '…';
};

/**
 * A paragraph. Running text cannot hold drawings, so that one with mathematics is set word by word, each formula between
 * the words, standing on their line.
 */
function Paragraph({ inline, size, gap }: { inline: readonly RichInline[]; size: number; gap: Gaps }) {
  if (!inline.some((one) => one.type === 'math' || runsOf(wordsOf(one, gap)).some((run) => run.family === null)))
    return (
      <Text style={{ fontSize: size, lineHeight, minHeight: size * lineHeight }}>
        {inline.map((one, i) => (
          <Words key={i} style={styleOf(one.type === 'text' ? one.marks : undefined, size)}>
            {wordsOf(one, gap)}
          </Words>
        ))}
      </Text>
    );
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'flex-end' }}>
      {inline.flatMap((one, i) => {
        if (one.type === 'hardBreak') return [<View key={`${i}`} style={{ width: '100%' }} />];
        if (one.type === 'math') {
          const drawing = drawMath(one.attrs.tex, one.attrs.display);
          return [
            drawing ? (
              <Formula key={`${i}`} drawing={drawing} size={size} display={one.attrs.display} />
            ) : (
              <Text key={`${i}`} style={{ fontFamily: 'Courier', fontSize: size, lineHeight }}>
                {one.attrs.tex}
              </Text>
            ),
          ];
        }
        return (wordsOf(one, gap).match(/\S+\s*|\s+/g) ?? []).flatMap((word, w) =>
          runsOf(/\s$/.test(word) ? `${word.trimEnd()}\u00a0` : word).map(({ text, family }, r) => {
            // A sign that no font of ours holds is drawn as mathematics: arrows, relations and the like.
            const sign = family === null ? drawMath(text, false) : null;
            const key = `${i}/${w}/${r}`;
            return sign ? (
              <Formula key={key} drawing={sign} size={size} display={false} />
            ) : (
              <Words
                key={key}
                style={{ fontSize: size, lineHeight, ...styleOf(one.type === 'text' ? one.marks : [], size) }}
              >
                {text}
              </Words>
            );
          }),
        );
      })}
    </View>
  );
}

function Formula({ drawing, size, display }: { drawing: MathDrawing; size: number; display: boolean }) {
  const { width, height, depth, viewBox, shapes } = drawing;
  const svg = (
    <Svg
      viewBox={viewBox}
      style={{
        width: width * size,
        height: height * size,
        marginRight: size * 0.22,
        marginBottom: display ? 3 : (lineAboveFoot - depth) * size,
      }}
    >
      {shapes.map((shape, i) => {
        if (shape.kind === 'path') return <Path key={i} d={shape.d} fill={palette.ink} transform={shape.transform} />;
        if (shape.kind === 'rect') {
          const { x, y, width: wide, height: high, transform } = shape;
          return (
            <G key={i} transform={transform}>
              <Rect x={x} y={y} width={wide} height={high} fill={palette.ink} />
            </G>
          );
        }
        return null;
      })}
    </Svg>
  );
  return display ? <View style={{ width: '100%', alignItems: 'center', marginVertical: 4 }}>{svg}</View> : svg;
}

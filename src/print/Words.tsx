// biome-ignore-all lint/suspicious/noArrayIndexKey: a page is printed once; nothing on it changes its order
import { Text, type TextProps } from '@react-pdf/renderer';

import { runsOf } from './fonts';

type Props = { style?: TextProps['style']; face?: 'serif' | 'sans'; children: string };

/** Text in whatever letters, each piece in the cut of the font that holds it. */
export const Words = ({ style, face = 'serif', children }: Props) => (
  <Text style={style}>
    {runsOf(children, face).map(({ text, family }, i) => (
      <Text key={i} style={{ fontFamily: family ?? `${face} latin` }}>
        {text}
      </Text>
    ))}
  </Text>
);

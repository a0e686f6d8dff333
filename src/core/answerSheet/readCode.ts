import jsQR from 'jsqr';
import type { CodeReader } from './readSheet';

/** Reads the printed code of a sheet (ISO/IEC 18004) in a part of a picture. */
export const readCode: CodeReader = ({ width, height, data }) => {
  // Below this no code could have its 25 modules with a pixel each.
  if (width < 30 || height < 30) return null;
  const colours = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < data.length; i++) colours.fill(data[i] as number, 4 * i, 4 * i + 3);
  const code = jsQR(colours, width, height, { inversionAttempts: 'dontInvert' });
  if (!code) return null;
  const { topLeftCorner, topRightCorner, bottomRightCorner, bottomLeftCorner } = code.location;
  return { text: code.data, corners: [topLeftCorner, topRightCorner, bottomRightCorner, bottomLeftCorner] };
};

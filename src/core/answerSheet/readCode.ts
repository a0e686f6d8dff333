import jsQR from 'jsqr';
import type { CodeReader } from './readSheet';

/** Reads the printed code of a sheet (ISO/IEC 18004) in a part of a picture. */
export const readCode: CodeReader = ({ width, height, data }) => {
  // Below this no code could have its 25 modules with a pixel each.
  if (width < 30 || height < 30) return null;
  // Four bytes at once: the three colours, and no transparency.
  const pixels = new Uint32Array(width * height);
  for (let i = 0; i < data.length; i++) pixels[i] = (data[i] as number) * 0x01_01_01 + 0xff_00_00_00;
  const code = jsQR(new Uint8ClampedArray(pixels.buffer), width, height, { inversionAttempts: 'dontInvert' });
  if (!code) return null;
  const { topLeftCorner, topRightCorner, bottomRightCorner, bottomLeftCorner } = code.location;
  return { text: code.data, corners: [topLeftCorner, topRightCorner, bottomRightCorner, bottomLeftCorner] };
};

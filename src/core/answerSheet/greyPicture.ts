/** A picture in shades of grey, row by row from its upper left corner: 0 is black, 255 white. */
export type GreyPicture = { width: number; height: number; data: Uint8Array };

/** The shade at a place between pixels, from the four around it; what lies outside is as the nearest edge. */
export function shadeAt({ width, height, data }: GreyPicture, x: number, y: number): number {
  const cx = Math.min(Math.max(x, 0), width - 1.001);
  const cy = Math.min(Math.max(y, 0), height - 1.001);
  const left = Math.floor(cx);
  const top = Math.floor(cy);
  const fx = cx - left;
  const fy = cy - top;
  const at = top * width + left;
  const upper = (data[at] as number) * (1 - fx) + (data[at + 1] as number) * fx;
  const lower = (data[at + width] as number) * (1 - fx) + (data[at + width + 1] as number) * fx;
  return upper * (1 - fy) + lower * fy;
}

/**
 * A picture a whole number of times smaller, each pixel the mean of those it stands for.
 *
 * Four shades are added at once, two to a word of 32 bits with 16 bits for each: of up to 257 rows none runs over.
 *
 * @param times how many times smaller, 257 at most
 */
export function reduced(picture: GreyPicture, times: number): GreyPicture {
  if (times <= 1) return picture;
  const width = Math.max(2, Math.floor(picture.width / times));
  const height = Math.max(2, Math.floor(picture.height / times));
  const data = new Uint8Array(width * height);
  const { data: from, width: stride } = picture;
  const words = new DataView(from.buffer, from.byteOffset, from.byteLength);
  // The last words may reach beyond the columns that count; where the picture ends with them, they are added one by one.
  const columns = Math.min(width * times, stride);
  const sums = new Int32Array(columns + 4);
  const count = times * times;
  for (let y = 0; y < height; y++) {
    const first = y * times * stride;
    const end = Math.min(first + times * stride, from.length);
    const whole = end + 4 <= from.length ? columns : columns - 3;
    let x = 0;
    for (; x < whole; x += 4) {
      let even = 0;
      let odd = 0;
      for (let at = first + x; at < end; at += stride) {
        const word = words.getInt32(at, true);
        even += word & 0x00ff_00ff;
        odd += (word >>> 8) & 0x00ff_00ff;
      }
      sums[x] = even & 0xffff;
      sums[x + 1] = odd & 0xffff;
      sums[x + 2] = even >>> 16;
      sums[x + 3] = odd >>> 16;
    }
    for (; x < columns; x++) {
      let sum = 0;
      for (let at = first + x; at < end; at += stride) sum += from[at] as number;
      sums[x] = sum;
    }
    for (let to = 0, at = 0; to < width; to++) {
      let sum = 0;
      for (let u = 0; u < times; u++, at++) sum += sums[at] as number;
      data[y * width + to] = sum / count;
    }
  }
  return { width, height, data };
}

/** The part of a picture within a rectangle, as far as it lies on the picture. */
export function cropped(picture: GreyPicture, left: number, top: number, right: number, bottom: number) {
  const x = Math.max(0, Math.floor(left));
  const y = Math.max(0, Math.floor(top));
  const width = Math.max(0, Math.min(picture.width, Math.ceil(right)) - x);
  const height = Math.max(0, Math.min(picture.height, Math.ceil(bottom)) - y);
  const data = new Uint8Array(width * height);
  for (let row = 0; row < height; row++) {
    const from = (y + row) * picture.width + x;
    data.set(picture.data.subarray(from, from + width), row * width);
  }
  return { x, y, picture: { width, height, data } satisfies GreyPicture };
}

/** A picture with each pixel the mean of itself and those around it: what is left of a sensor's noise is a third. */
export function softened(picture: GreyPicture): GreyPicture {
  const { width, height, data } = picture;
  const soft = Uint8Array.from(data);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      let sum = 0;
      for (let v = at - width; v <= at + width; v += width)
        sum += (data[v - 1] as number) + (data[v] as number) + (data[v + 1] as number);
      soft[at] = sum / 9;
    }
  return { width, height, data: soft };
}

/** The shades of a picture in colours, four bytes a pixel, as a canvas gives it (ITU-R BT.601 luma). */
export function greyOf({
  width,
  height,
  data,
}: {
  width: number;
  height: number;
  data: ArrayLike<number>;
}): GreyPicture {
  const grey = new Uint8Array(width * height);
  for (let i = 0; i < grey.length; i++)
    grey[i] =
      0.299 * (data[4 * i] as number) + 0.587 * (data[4 * i + 1] as number) + 0.114 * (data[4 * i + 2] as number);
  return { width, height, data: grey };
}

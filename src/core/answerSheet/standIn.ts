import type { Random } from '../base/random';
import { openPart } from './findCorners';
import type { GreyPicture } from './greyPicture';
import { apart, type Homography, homographyOf, mapped } from './homography';
import { type Place, type SheetPage, studentRow } from './sheetLayout';
import { boxLabels, gridSigns, type SheetPlan } from './sheetRow';

/**
 * The stand-in for printer and scanner: fills in sheets with pencil-like marks and gives pictures as a copier or a phone
 * would, with the truth beside them, so that reading can be tried and measured without paper.
 */

/** How well a picture was taken: by a copier at 200 dpi; by one at 150 dpi, askew and grey; by a phone, in perspective and shade. */
export const grades = ['copier', 'worn-copier', 'phone'] as const;
/** One of the {@link grades}. */
export type Grade = (typeof grades)[number];

/** What somebody did to a box. `erased` was filled and rubbed out, `faint` hardly touched. */
export type Stroke = 'filled' | 'crossed' | 'erased' | 'faint';
/** What was done to a page: for each box that was touched, its place in the layout. */
export type Marked = { box: number; stroke: Stroke }[];

/** What is true of a row: what its writer meant, and whether the marks say so beyond doubt. */
export type RowTruth = { row: number; filled: string[]; clear: boolean };

/** A number in [0, 1). */
const chance = (random: Random): number => random.below(2 ** 24) / 2 ** 24;

/** Pixels for a millimetre of the sheet that is filled in: 203 dpi. */
export const dotsPerMillimetre = 8;

/** Makes up what one student does to a page: mostly clear marks, some rows left out, some spoilt. */
export function fillIn(
  plan: SheetPlan,
  page: SheetPage,
  random: Random,
  studentNumber = '',
  spoilt = 0.02,
): { marked: Marked; truth: RowTruth[] } {
  const marked: Marked = [];
  const truth: RowTruth[] = [];
  const at = new Map<string, number>();
  for (const [i, box] of page.boxes.entries()) at.set(`${box.row}/${box.column}/${box.option}`, i);
  const stroke = (): Stroke => (chance(random) < 0.7 ? 'filled' : 'crossed');
  const mark = (row: number, column: number, option: number, how: Stroke) => {
    const box = at.get(`${row}/${column}/${option}`);
    if (box !== undefined) marked.push({ box, stroke: how });
  };
  for (const row of [...new Set(page.boxes.map((box) => box.row))]) {
    const asked = row === studentRow ? null : plan.rows[row];
    if (!asked || asked.kind === 'number') {
      const signs = asked ? gridSigns(asked) : [...'0123456789'];
      const columns = asked ? asked.columns : plan.studentColumns;
      const written = asked
        ? Array.from({ length: 1 + random.below(columns) }, () => String(random.below(10))).join('')
        : studentNumber;
      const filled = Array.from({ length: columns }, (_, column) => written[column] ?? '');
      for (const [column, sign] of filled.entries()) if (sign) mark(row, column, signs.indexOf(sign), stroke());
      truth.push({ row, filled, clear: true });
      continue;
    }
    const labels = boxLabels(asked);
    const way = chance(random);
    const one = random.below(labels.length);
    const other = (one + 1 + random.below(labels.length - 1)) % labels.length;
    const said = (option: number) => labels[option] as string;
    if (asked.kind === 'choice' && asked.several) {
      const chosen = labels.flatMap((_, option) => (chance(random) < 0.4 ? [option] : []));
      for (const option of chosen) mark(row, 0, option, stroke());
      truth.push({ row, filled: chosen.map(said), clear: true });
    } else if (way < spoilt) {
      const spoil = random.below(3);
      mark(row, 0, one, spoil === 2 ? 'faint' : stroke());
      if (spoil < 2) mark(row, 0, other, spoil === 0 ? 'erased' : stroke());
      truth.push({ row, filled: [said(one)], clear: false });
    } else if (way < spoilt + 0.04) truth.push({ row, filled: [], clear: true });
    else {
      mark(row, 0, one, stroke());
      truth.push({
        row,
        filled: [said(one)],
        clear: asked.kind !== 'points' || asked.most <= 10 || Number(said(one)) < 10,
      });
    }
  }
  return { marked, truth };
}

/** Draws what a sheet looks like when nothing but what the reader needs is printed on it: corner marks and boxes. */
export function blankPage(page: SheetPage): GreyPicture {
  const scale = dotsPerMillimetre;
  const picture = white(Math.round(page.width * scale), Math.round(page.height * scale));
  for (const [i, { x, y }] of page.corners.entries()) {
    square(picture, x, y, page.cornerSide, 20);
    if (i === 0) square(picture, x, y, page.cornerSide * openPart, 255);
  }
  for (const { x, y, side } of page.boxes) {
    square(picture, x, y, side, 60);
    square(picture, x, y, side - 0.5, 255);
  }
  return picture;
}

const white = (width: number, height: number): GreyPicture => ({
  width,
  height,
  data: new Uint8Array(width * height).fill(255),
});

function square(picture: GreyPicture, x: number, y: number, side: number, shade: number): void {
  const scale = dotsPerMillimetre;
  const from = { x: Math.round((x - side / 2) * scale), y: Math.round((y - side / 2) * scale) };
  const to = { x: Math.round((x + side / 2) * scale), y: Math.round((y + side / 2) * scale) };
  for (let v = Math.max(0, from.y); v < Math.min(picture.height, to.y); v++)
    picture.data.fill(
      shade,
      v * picture.width + Math.max(0, from.x),
      v * picture.width + Math.min(picture.width, to.x),
    );
}

/** Puts a student's marks on a printed page, which stays as it is. */
export function markPage(blank: GreyPicture, page: SheetPage, marked: Marked, random: Random): GreyPicture {
  const picture = { ...blank, data: Uint8Array.from(blank.data) };
  // Each has a hand and a pencil of their own.
  const hand = {
    press: 0.55 + 0.35 * chance(random),
    width: 0.45 + 0.35 * chance(random),
    care: 0.2 + 0.3 * chance(random),
  };
  for (const { box, stroke } of marked) {
    const { x, y, side } = page.boxes[box] as SheetPage['boxes'][number];
    const half = side / 2;
    const shaken = () => (chance(random) - 0.5) * hand.care;
    const place = (u: number, v: number): Place => ({ x: x + u * half + shaken(), y: y + v * half + shaken() });
    if (stroke === 'crossed') {
      line(picture, place(-0.95, -0.95), place(0.95, 0.95), hand.width + 0.15, hand.press);
      line(picture, place(-0.95, 0.95), place(0.95, -0.95), hand.width + 0.15, hand.press);
      continue;
    }
    const press =
      stroke === 'filled'
        ? hand.press
        : stroke === 'erased'
          ? 0.14 + 0.08 * chance(random)
          : 0.16 + 0.1 * chance(random);
    const turns = stroke === 'faint' ? 4 : 5 + random.below(4);
    let from = place(-0.8, -0.8);
    for (let i = 1; i <= turns; i++) {
      const to = place(i % 2 ? 0.8 : -0.8, -0.8 + (1.6 * i) / turns);
      line(picture, from, to, hand.width + 0.1, press);
      from = to;
    }
  }
  return picture;
}

/** A soft line, `width` millimetres wide, that darkens what lies under it by a part of its light. */
function line(picture: GreyPicture, from: Place, to: Place, width: number, press: number): void {
  const scale = dotsPerMillimetre;
  const [ax, ay, bx, by] = [from.x * scale, from.y * scale, to.x * scale, to.y * scale];
  const half = (width * scale) / 2;
  const length = Math.max(1e-6, (bx - ax) ** 2 + (by - ay) ** 2);
  for (
    let v = Math.max(0, Math.floor(Math.min(ay, by) - half));
    v <= Math.min(picture.height - 1, Math.ceil(Math.max(ay, by) + half));
    v++
  )
    for (
      let u = Math.max(0, Math.floor(Math.min(ax, bx) - half));
      u <= Math.min(picture.width - 1, Math.ceil(Math.max(ax, bx) + half));
      u++
    ) {
      const t = Math.max(0, Math.min(1, ((u - ax) * (bx - ax) + (v - ay) * (by - ay)) / length));
      const off = Math.hypot(u - ax - t * (bx - ax), v - ay - t * (by - ay));
      if (off > half) continue;
      const i = v * picture.width + u;
      picture.data[i] = Math.min(
        picture.data[i] as number,
        255 * (1 - press * Math.min(1, (half - off) / (half * 0.4))),
      );
    }
}

/** A picture of a page, and how the page stands in it. */
export type Taken = { picture: GreyPicture; h: Homography };

/** Noise of a sensor, about as wide as 1: four small chances of one draw, added up. */
function grain(random: Random): number {
  const drawn = random.below(2 ** 32);
  const sum = (drawn & 255) + ((drawn >>> 8) & 255) + ((drawn >>> 16) & 255) + (drawn >>> 24);
  return (sum - 510) / 148;
}

/** A stream of {@link grain}: so many are drawn once, and given in an order that does not come again on a picture. */
function grains(random: Random): () => number {
  const drawn = Float32Array.from({ length: 2 ** 14 }, () => grain(random));
  let state = 1 + random.below(2 ** 31);
  return () => {
    // Marsaglia, “Xorshift RNGs”, Journal of Statistical Software 8 (2003).
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return drawn[state & (2 ** 14 - 1)] as number;
  };
}

const grading = {
  copier: { dots: 200 / 25.4, turn: 0.6, paper: [244, 255], noise: 3, soft: 0.35, bend: 0, lean: 0, shade: 0 },
  'worn-copier': { dots: 150 / 25.4, turn: 4, paper: [188, 236], noise: 6, soft: 0.5, bend: 0.1, lean: 0, shade: 0.08 },
  phone: { dots: 6.6, turn: 7, paper: [175, 240], noise: 5, soft: 0.6, bend: 0.35, lean: 0.07, shade: 0.42 },
} as const;

/** Takes a picture of a page lying on paper of A4 or on a table, as a copier or a phone would, at any turn. */
export function takePicture(sheet: GreyPicture, page: SheetPage, grade: Grade, random: Random): Taken {
  const { dots, turn, paper, noise, soft, bend, lean, shade } = grading[grade];
  const between = (least: number, most: number) => least + (most - least) * chance(random);
  const margin = grade === 'phone' ? between(8, 26) : 9;
  // The four corners of the sheet in the picture: turned, leaned, and half of the time upside down.
  const angle = ((between(-turn, turn) + (chance(random) < 0.5 ? 180 : 0)) * Math.PI) / 180;
  // Whoever takes a picture takes the whole sheet in.
  const reach = (along: number, across: number) =>
    Math.round((Math.abs(along * Math.cos(angle)) + Math.abs(across * Math.sin(angle)) + 2 * margin) * dots);
  const width = reach(page.width, page.height);
  const height = reach(page.height, page.width);
  const middle = { x: width / 2, y: height / 2 };
  const corners = [
    { x: 0, y: 0 },
    { x: page.width, y: 0 },
    { x: 0, y: page.height },
    { x: page.width, y: page.height },
  ];
  const stands = corners.map(({ x, y }) => {
    const u = (x - page.width / 2) * dots * (1 + between(-lean, lean) * 0.6);
    const v = (y - page.height / 2) * dots * (1 + between(-lean, lean) * 0.6);
    return {
      x: middle.x + u * Math.cos(angle) - v * Math.sin(angle),
      y: middle.y + u * Math.sin(angle) + v * Math.cos(angle),
    };
  });
  const h = homographyOf(corners, stands) as Homography;
  const back = homographyOf(stands, corners) as Homography;
  const white = between(paper[0], paper[1]);
  const black = grade === 'copier' ? between(0, 30) : between(20, 70);
  const light = { x: between(-1, 1), y: between(-1, 1) };
  const table = grade === 'phone' ? between(60, 210) : white;
  const curl = { size: between(-bend, bend), at: between(0, 6) };
  const stain =
    chance(random) < 0.15
      ? { x: between(0, page.width), y: between(0, page.height), r: between(15, 40), deep: between(0.06, 0.2) }
      : null;
  const data = new Uint8Array(width * height);
  const half = soft / 2;
  const nextGrain = grains(random);
  const [a, b, c, d, e, f, g, k, l] = back as number[] as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  // How far the paper is bent, by millimetres of the sheet: worked out once, and not for every pixel.
  const bends = Float64Array.from({ length: 700 }, (_, i) => curl.size * Math.sin((i - 200) / 45 + curl.at));
  const { data: ink, width: across, height: down } = sheet;
  const [lastX, lastY] = [across - 1.001, down - 1.001];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let value = 0;
      // Two looks half a pixel apart: what is between them is blurred.
      for (let n = 0; n < 2; n++) {
        const u = n ? x + half : x - half;
        const v = n ? y + half : y - half;
        const w = g * u + k * v + l;
        const sx = (a * u + b * v + c) / w;
        const sy = (d * u + e * v + f) / w;
        const px = sx + (bends[sy < -200 ? 0 : sy > 499 ? 699 : (sy + 200.5) | 0] as number);
        const py = sy + (bends[sx < -200 ? 0 : sx > 499 ? 699 : (sx + 200.5) | 0] as number);
        if (px >= 0 && py >= 0 && px < page.width && py < page.height) {
          // As shadeAt, without a call for each of some million pixels.
          const cx = Math.min(Math.max(px * dotsPerMillimetre - 0.5, 0), lastX);
          const cy = Math.min(Math.max(py * dotsPerMillimetre - 0.5, 0), lastY);
          const left = cx | 0;
          const top = cy | 0;
          const fx = cx - left;
          const at = top * across + left;
          const upper = (ink[at] as number) * (1 - fx) + (ink[at + 1] as number) * fx;
          const lower = (ink[at + across] as number) * (1 - fx) + (ink[at + across + 1] as number) * fx;
          value += black + ((white - black) * (upper + (lower - upper) * (cy - top))) / 255;
        } else value += px > -8 && py > -8 && px < page.width + 8 && py < page.height + 8 ? white : table;
      }
      value *= (1 - shade * (0.5 + (light.x * (x / width - 0.5) + light.y * (y / height - 0.5)))) / 2;
      if (stain) {
        const far = apart(mapped(back, { x, y }), stain) / stain.r;
        if (far < 1) value *= 1 - stain.deep * (far > 0.85 ? 1.6 : 1);
      }
      data[y * width + x] = Math.max(0, Math.min(255, value + nextGrain() * noise));
    }
  return { picture: { width, height, data }, h };
}

import { findSpots, openPart, type Spot } from './findCorners';
import { cropped, type GreyPicture, reduced, shadeAt, softened } from './greyPicture';
import { apart, type Homography, homographyOf, mapped } from './homography';
import { layOutSheet, type Place, type SheetBox, type SheetPage } from './sheetLayout';

/** A code as its reader finds it: what it says, and its four corners from the upper left one clockwise. */
export type ReadCode = { text: string; corners: readonly [Place, Place, Place, Place] };
/**
 * Reads the code on a part of a picture that begins at `at`; places are from the part's upper left corner. Null where there
 * is none, or none that can be read.
 */
export type CodeReader = (part: GreyPicture, at: Place) => ReadCode | null;

/** A sheet that was found in a picture by its code; places in pixels of the picture. */
export type FoundSheet = { text: string; corners: readonly [Place, Place, Place, Place]; spots: readonly Spot[] };

/** What a page of a sheet shows: how dark each of its boxes is, in the order of its layout; 0 as paper, 1 as ink. */
export type PageMarks = { kind: 'read'; darkness: Float32Array; h: Homography };
/** A page that was found and cannot be read: so many of its four corner marks are there. */
export type PageProblem = { kind: 'corner-missing'; found: number };

/** The longer side of the picture in which marks are looked for, in pixels: at first, and where nothing was found. */
const looks = [840, 1_700];
/** Sides of a corner mark as part of the longer side of the picture: from a sheet that fills half of a photo to a quarter sheet alone. */
const sides = { least: 1 / 140, most: 1 / 24 };
/** How many open marks are looked at for a code. */
const mostTried = 24;
/** Around an open mark, in sides of it, lies the code at any turn. */
const around = 5.6;
/** A code is read at about this many pixels for the side of its corner mark, four for each of its squares, where there are more. */
const enough = 30;

/** The smallest a sheet is, in millimetres, and where its code stands on it: what is known of one whose layout is not. */
const leastSheet = layOutSheet({
  version: 1,
  size: 100,
  perPage: 4,
  studentColumns: 0,
  rows: [{ kind: 'choice', label: '1', options: ['A', 'B'], several: false }],
})[0] as SheetPage;

/**
 * Finds the sheets in a picture, at any turn: each has one corner mark that is open inside, and its code beside it.
 *
 * @param readCode reads the code in a part of the picture
 * @param pageOf the page of the layout that a code names; null where it is not known. Where a sheet lies, no other does.
 */
export function findSheets(
  picture: GreyPicture,
  readCode: CodeReader,
  pageOf: (text: string) => SheetPage | null = () => null,
): FoundSheet[] {
  const longer = Math.max(picture.width, picture.height);
  const found: FoundSheet[] = [];
  const covered: ((place: Place) => boolean)[] = [];
  let before = 0;
  for (const look of looks) {
    const times = Math.max(1, Math.round(longer / look));
    if (found.length > 0 || times === before) break;
    before = times;
    const small = reduced(picture, times);
    const size = Math.max(small.width, small.height);
    const spots = findSpots(small, Math.max(4, size * sides.least), size * sides.most).map((spot) => ({
      ...spot,
      x: (spot.x + 0.5) * times - 0.5,
      y: (spot.y + 0.5) * times - 0.5,
      side: spot.side * times,
    }));
    // The corner mark is the largest of what is open inside: boxes that were filled in the middle are smaller.
    const opens = spots.filter((spot) => spot.open).sort((a, b) => b.side - a.side);
    for (const open of opens.slice(0, mostTried)) {
      const reach = open.side * around;
      if (covered.some((covers) => covers(open))) continue;
      const part = cropped(picture, open.x - reach, open.y - reach, open.x + reach, open.y + reach);
      const code = codeIn(part, Math.floor(open.side / enough), readCode);
      if (!code) continue;
      const { corners } = code;
      // The code belongs to this mark only if it lies where the geometry puts it: beside it, not across the page.
      if (apart(corners[0], open) > open.side * 2) continue;
      found.push({ text: code.text, corners, spots });
      covered.push(coveredBy(corners, pageOf(code.text) ?? leastSheet));
    }
  }
  return found;
}

/**
 * Reads the code in a part of a picture: smaller where it is large, which is quick and takes the noise out; else as it is,
 * with the noise taken out and without.
 */
function codeIn(part: ReturnType<typeof cropped>, times: number, readCode: CodeReader): ReadCode | null {
  const placed = ({ text, corners }: ReadCode, scale: number): ReadCode => ({
    text,
    corners: corners.map(({ x, y }) => ({
      x: x * scale + part.x,
      y: y * scale + part.y,
    })) as unknown as ReadCode['corners'],
  });
  const small = times > 1 ? readCode(reduced(part.picture, times), part) : null;
  if (small) return placed(small, times);
  const code = readCode(softened(part.picture), part) ?? readCode(part.picture, part);
  return code && placed(code, 1);
}

/** Whether a place of the picture lies on the sheet that a code belongs to: nearly, as the code alone tells it. */
function coveredBy(corners: FoundSheet['corners'], page: SheetPage): (place: Place) => boolean {
  const back = homographyOf(corners, codeCorners(page));
  const edge = page.cornerSide;
  return (place) => {
    if (!back) return false;
    const { x, y } = mapped(back, place);
    return x > -edge && y > -edge && x < page.width && y < page.height;
  };
}

/** The corners of a code on its sheet, in the order in which a reader gives them. */
const codeCorners = ({ code: { x, y, side } }: SheetPage): Place[] => [
  { x, y },
  { x: x + side, y },
  { x: x + side, y: y + side },
  { x, y: y + side },
];

/**
 * Reads the boxes of a page that was found.
 *
 * The code says where the sheet begins and how it is turned; from it the four corner marks are found one after the
 * other, the nearest first, each making the next place surer. The four give the map from millimetres to pixels, and by it
 * every box is looked into.
 */
export function readMarks(picture: GreyPicture, found: FoundSheet, page: SheetPage): PageMarks | PageProblem {
  const corners = cornersOf(picture, found, page);
  const seen = corners.filter((corner) => corner !== null);
  if (seen.length < 4) return { kind: 'corner-missing', found: seen.length };
  const h = homographyOf(page.corners, seen);
  if (!h || offBy(h, found, page) > page.code.side * 0.12) return { kind: 'corner-missing', found: 3 };
  const inks = page.corners.map((corner, i) => inkRatio(picture, h, corner, page.cornerSide, i === 0));
  const close = closeTogether(page);
  const darkness = new Float32Array(page.boxes.length);
  for (const [i, box] of page.boxes.entries()) {
    const across = box.x / page.width;
    const down = box.y / page.height;
    const ratio =
      ((inks[0] as number) * (1 - across) + (inks[1] as number) * across) * (1 - down) +
      ((inks[2] as number) * (1 - across) + (inks[3] as number) * across) * down;
    darkness[i] = darknessOf(picture, h, box, ratio, close.has(box) ? outside : ground.reach);
  }
  return { kind: 'read', darkness, h };
}

/** How far the code lies from where the map puts it, at most, in millimetres. */
function offBy(h: Homography, found: FoundSheet, page: SheetPage): number {
  const scale = apart(found.corners[0], found.corners[1]) / page.code.side;
  return Math.max(...codeCorners(page).map((place, i) => apart(mapped(h, place), found.corners[i] as Place) / scale));
}

function cornersOf(picture: GreyPicture, found: FoundSheet, page: SheetPage): (Place | null)[] {
  const code = codeCorners(page);
  const scale = apart(found.corners[0], found.corners[1]) / page.code.side;
  const side = page.cornerSide * scale;
  const near = homographyOf(code, found.corners);
  if (!near) return [];
  const [first, second, third, fourth] = page.corners;
  const upperLeft = nearest(found.spots, mapped(near, first), side, 0, true);
  if (!upperLeft) return [];
  // Two far places by the turn and size of the code: its upper and its left edge, drawn out.
  const along = (to: Place): Place => {
    const [a, b, , d] = found.corners;
    const { side: edge } = page.code;
    const dx = (to.x - first.x) / edge;
    const dy = (to.y - first.y) / edge;
    return {
      x: upperLeft.x + (b.x - a.x) * dx + (d.x - a.x) * dy,
      y: upperLeft.y + (b.y - a.y) * dx + (d.y - a.y) * dy,
    };
  };
  const reach = (to: Place) => (6 + 0.16 * apart(first, to)) * scale;
  const upperRights = near3(found.spots, along(second), side, reach(second));
  const lowerLefts = near3(found.spots, along(third), side, reach(third));
  let best: { corners: (Place | null)[]; off: number } | null = null;
  for (const upperRight of upperRights)
    for (const lowerLeft of lowerLefts) {
      const lowerRights = near3(
        found.spots,
        { x: upperRight.x + lowerLeft.x - upperLeft.x, y: upperRight.y + lowerLeft.y - upperLeft.y },
        side,
        reach(fourth),
      );
      for (const lowerRight of lowerRights) {
        const rough = homographyOf(page.corners, [upperLeft, upperRight, lowerLeft, lowerRight]);
        if (!rough) continue;
        const off = offBy(rough, found, page);
        if (!best || off < best.off) best = { corners: [upperLeft, upperRight, lowerLeft, lowerRight], off };
      }
    }
  if (!best) return [upperLeft, upperRights[0] ?? null, lowerLefts[0] ?? null, null];
  return best.corners.map((corner) => corner && refined(picture, corner, side));
}

function nearest(spots: readonly Spot[], to: Place, side: number, reach: number, open: boolean): Spot | null {
  let best: Spot | null = null;
  for (const spot of spots) {
    if (spot.open !== open || spot.side < side * 0.6 || spot.side > side * 1.6) continue;
    const far = apart(spot, to);
    if (far < Math.max(reach, side * 2) && (!best || far < apart(best, to))) best = spot;
  }
  return best;
}

/** The three filled spots nearest to a place that can be a corner mark. */
const near3 = (spots: readonly Spot[], to: Place, side: number, reach: number): Spot[] =>
  spots
    .filter((spot) => !spot.open && spot.side > side * 0.55 && spot.side < side * 1.8 && apart(spot, to) < reach)
    .sort((a, b) => apart(a, to) - apart(b, to))
    .slice(0, 3);

/** The middle of a corner mark to parts of a pixel: of what is dark in its window, each pixel by how dark it is. */
function refined(picture: GreyPicture, { x, y }: Place, side: number): Place {
  const reach = side * 0.72;
  const { x: left, y: top, picture: part } = cropped(picture, x - reach, y - reach, x + reach + 1, y + reach + 1);
  if (part.data.length < 9) return { x, y };
  const sorted = Uint8Array.from(part.data).sort();
  const ink = sorted[Math.floor(sorted.length * 0.08)] as number;
  const paper = sorted[Math.floor(sorted.length * 0.94)] as number;
  const middle = ink + (paper - ink) * 0.6;
  let [weight, sumX, sumY] = [0, 0, 0];
  for (let v = 0; v < part.height; v++)
    for (let u = 0; u < part.width; u++) {
      const shade = part.data[v * part.width + u] as number;
      if (shade >= middle) continue;
      const w = middle - shade;
      weight += w;
      sumX += w * u;
      sumY += w * v;
    }
  return weight > 0 ? { x: left + sumX / weight, y: top + sumY / weight } : { x, y };
}

/** The shade at a place of the sheet, as {@link mapped} finds it in the picture: it is asked for a hundred times a box. */
function shadeOn(picture: GreyPicture, h: Homography, x: number, y: number): number {
  const w = (h[6] as number) * x + (h[7] as number) * y + (h[8] as number);
  return shadeAt(
    picture,
    ((h[0] as number) * x + (h[1] as number) * y + (h[2] as number)) / w,
    ((h[3] as number) * x + (h[4] as number) * y + (h[5] as number)) / w,
  );
}

/** How dark ink is beside paper, as a part of it, at a corner mark. */
function inkRatio(picture: GreyPicture, h: Homography, corner: Place, side: number, open: boolean): number {
  const inks: number[] = [];
  const papers: number[] = [];
  const ring = open ? (side / 2) * ((1 + openPart) / 2) : side * 0.22;
  for (let i = 0; i < 12; i++) {
    const angle = (i * Math.PI) / 6;
    const shade = (r: number) => shadeOn(picture, h, corner.x + r * Math.cos(angle), corner.y + r * Math.sin(angle));
    inks.push(shade(ring));
    papers.push(shade(side * 0.95));
  }
  papers.sort((a, b) => a - b);
  inks.sort((a, b) => a - b);
  const paper = papers[9] as number;
  return paper > 0 ? Math.min(0.85, (inks[3] as number) / paper) : 0.5;
}

/** Samples along one side of a box. */
const samples = 9;
/** What is left out at the edge of a box, in millimetres: its frame, and what a place can be off by. */
const frame = 0.62;
/** How far outside a box the paper is looked at, in millimetres. */
const outside = 0.62;

/** The boxes that stand so close above one another that nothing but a gap is between them, as in a number grid. */
function closeTogether({ boxes }: SheetPage): ReadonlySet<SheetBox> {
  const close = new Set<SheetBox>();
  const byColumn = new Map<number, SheetBox[]>();
  for (const box of boxes) byColumn.set(box.x, [...(byColumn.get(box.x) ?? []), box]);
  for (const column of byColumn.values())
    for (const box of column)
      if (column.some((other) => other !== box && Math.abs(other.y - box.y) < box.side * 1.5)) close.add(box);
  return close;
}

/** How dark the inside of a box is between the paper around it (0) and ink (1). */
function darknessOf(
  picture: GreyPicture,
  h: Homography,
  { x, y, side }: SheetBox,
  ink: number,
  reachDown: number,
): number {
  const inner = side / 2 - frame;
  let sum = 0;
  for (let v = 0; v < samples; v++)
    for (let u = 0; u < samples; u++) {
      sum += shadeOn(
        picture,
        h,
        x + (((u + 0.5) * 2) / samples - 1) * inner,
        y + (((v + 0.5) * 2) / samples - 1) * inner,
      );
    }
  const shade = sum / (samples * samples);
  const groundAt = (u: number, v: number): number => shadeOn(picture, h, x + u, y + v);
  const papers: number[] = [];
  const reach = side / 2 + outside;
  for (let i = 0; i < 5; i++) {
    const t = (i / 4 - 0.5) * side;
    papers.push(groundAt(reach, t), groundAt(t, -reach), groundAt(t, reach));
  }
  papers.sort((a, b) => a - b);
  const darkness = (paper: number) => (paper - shade) / Math.max(1, paper * (1 - ink));
  const d = Math.max(0, Math.min(1.2, darkness(papers[8] as number)));
  if (d <= ground.faintest || d >= ground.below) return d;
  const darkest: number[] = [];
  for (const t of [-0.25, 0, 0.25]) {
    const along = t * side;
    const down = side / 2 + reachDown;
    darkest.push(groundAt(side / 2 + ground.reach, along), groundAt(along, -down), groundAt(along, down));
  }
  darkest.sort((a, b) => a - b);
  // What runs across a box from corner to corner passes the middle of its sides by.
  const far = side / 2 + ground.reach;
  const across = Math.min(
    Math.max(groundAt(-far, -far), groundAt(far, far)),
    Math.max(groundAt(-far, far), groundAt(far, -far)),
  );
  return besideStain(d, darkness(Math.min(darkest[2] as number, across)));
}

/**
 * A stain, or a shadow with an edge, is as dark beside a box as in it. What is less dark than `below` and stands out from the
 * darkest ground around it by less than `stands` is said to be `doubtful` at most: it is nobody's mark, nor surely none. What
 * is lighter than `light` and does not stand out at all is `empty`. Both are darknesses in the sense of `judgeMarks`.
 *
 * `reach` is how far outside a box that ground is looked at, in millimetres: farther than the frame of a box that is found a
 * little beside its place, nearer than the next label.
 */
const ground = { faintest: 0.075, below: 0.5, stands: 0.1, doubtful: 0.2, light: 0.12, empty: 0.07, reach: 0.95 };

function besideStain(d: number, standsOut: number): number {
  if (d < ground.light && standsOut <= 0) return ground.empty;
  return standsOut < ground.stands ? Math.min(d, ground.doubtful) : d;
}

/**
 * A page as it lies flat: what is kept as evidence, and shown in pieces beside what was read.
 *
 * @param dots pixels for a millimetre
 */
export function straightened(picture: GreyPicture, h: Homography, page: SheetPage, dots: number): GreyPicture {
  const width = Math.round(page.width * dots);
  const height = Math.round(page.height * dots);
  const data = new Uint8Array(width * height);
  const [a, b, c, d, e, f, g, k, l] = h as [number, number, number, number, number, number, number, number, number];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const u = (x + 0.5) / dots;
      const v = (y + 0.5) / dots;
      const w = g * u + k * v + l;
      data[y * width + x] = shadeAt(picture, (a * u + b * v + c) / w, (d * u + e * v + f) / w);
    }
  return { width, height, data };
}

/** Pixels for a millimetre of the picture that is kept of a sheet. */
export const keptDots = 5;

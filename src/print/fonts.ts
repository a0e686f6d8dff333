import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { Font } from '@react-pdf/renderer';

const require = createRequire(join(process.cwd(), 'package.json'));

/** The parts of Unicode into which the fonts are cut, a family for each. */
const cuts = {
  serif: { fontsource: 'source-serif-4', subsets: ['latin', 'latin-ext', 'greek', 'cyrillic', 'vietnamese'] },
  sans: { fontsource: 'atkinson-hyperlegible-next', subsets: ['latin', 'latin-ext'] },
};

/** What each cut holds, as its maker declares it; what is in none of them is in no font of ours. */
const ranges: [string, RegExp][] = [
  [
    'latin',
    /[\t\n\r\u0020-\u00ff\u0131\u0152\u0153\u02bb\u02bc\u02c6\u02da\u02dc\u2000-\u206f\u20ac\u2122\u2191\u2193\u2212\u2215]/u,
  ],
  ['latin-ext', /[\u0100-\u02ff\u1d00-\u1dbf\u1e00-\u1e9f\u1ef2-\u1eff\u20a0-\u20c0\u2113\u2c60-\u2c7f\ua720-\ua7ff]/u],
  ['greek', /[\u0370-\u03ff]/u],
  ['cyrillic', /[\u0301\u0400-\u045f\u0490\u0491\u04b0\u04b1\u2116]/u],
  ['vietnamese', /[\u1ea0-\u1ef9\u20ab]/u],
];

/** A piece of text that one family can set; null for signs that no font of ours holds. */
export type Run = { text: string; family: string | null };

/** Cuts a text where the family changes. Given one family for each piece, setting is many times faster than a list. */
export function runsOf(text: string, face: 'serif' | 'sans' = 'serif'): Run[] {
  const runs: Run[] = [];
  for (const sign of text) {
    const subset = ranges.find(([, range]) => range.test(sign))?.[0];
    const own = subset && cuts[face].subsets.includes(subset) ? face : 'serif';
    const family = subset ? `${own} ${subset}` : null;
    const last = runs.at(-1);
    if (last && last.family === family) last.text += sign;
    else runs.push({ text: sign, family });
  }
  return runs;
}

export const serif = 'serif latin';
export const sans = 'sans latin';

const known = new Set<string>();

/** The cuts that a text needs, by the names of {@link cuts}' subsets. */
function subsetsIn(text: string): Set<string> {
  const needed = new Set(['latin']);
  const signs = new Set(text);
  for (const [subset, range] of ranges) if ([...signs].some((sign) => range.test(sign))) needed.add(subset);
  return needed;
}

/**
 * Makes those fonts known that a text needs. They ship with the app; reading all of them takes seconds.
 *
 * @param text everything that will be printed, in any form
 */
export async function registerFonts(text: string): Promise<void> {
  // Words stay whole: a paper is read under time, and a term hyphenated by rule can be another term.
  Font.registerHyphenationCallback((word) => [word]);
  const needed = subsetsIn(text);
  for (const [name, { fontsource, subsets }] of Object.entries(cuts)) {
    const files = join(dirname(require.resolve(`@fontsource/${fontsource}/package.json`)), 'files');
    for (const subset of subsets) {
      const family = `${name} ${subset}`;
      if (!needed.has(subset) || known.has(family)) continue;
      known.add(family);
      for (const fontWeight of [400, 600])
        for (const fontStyle of ['normal', 'italic'] as const) {
          const src = join(files, `${fontsource}-${subset}-${fontWeight}-${fontStyle}.woff`);
          Font.register({ family, src, fontWeight, fontStyle });
          await nameApart(family, fontWeight, fontStyle);
        }
    }
  }
}

/**
 * All cuts of a font carry its one name, by which the writer of the PDF tells fonts apart: it would take every piece of
 * text in another cut for a new font and embed it again. Each cut gets a name of its own.
 */
async function nameApart(fontFamily: string, fontWeight: number, fontStyle: 'normal' | 'italic'): Promise<void> {
  await Font.load({ fontFamily, fontWeight, fontStyle });
  const font = Font.getFont({ fontFamily, fontWeight, fontStyle })?.data;
  const name = `${fontFamily}-${fontWeight}-${fontStyle}`.replace(/\s+/g, '-');
  if (font) Object.defineProperty(font, 'postscriptName', { value: name });
}

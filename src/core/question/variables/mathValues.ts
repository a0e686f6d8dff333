import { palette } from '../../base/palette';
import { valueText } from './valueText';

/** The place of a variable's value inside mathematics: `\value{a}`, or `\value[2]{a}` for two decimals. */
const place = /\\value ?(?:\[ ?(\d) ?\] ?)?\{ ?([A-Za-z]\w{0,19}) ?\}/g;

/** The variables whose values stand inside some TeX. */
export const namesInTex = (tex: string): string[] => [...tex.matchAll(place)].map((found) => found[2] as string);

/** TeX with values in the places of its variables, each in braces of its own; a place without a variable shows `?`. */
export const fillTex = (tex: string, values: Readonly<Record<string, number>>): string =>
  tex.replace(place, (_, decimals: string | undefined, name: string) => {
    const value = values[name];
    return `{${value === undefined ? '?' : valueText(value, decimals === undefined ? null : Number(decimals))}}`;
  });

/** TeX in which the places of values show their names, as an author should see them. */
export const nameTex = (tex: string): string =>
  tex.replace(place, (_, __, name: string) => `{\\textcolor{${palette.plum}}{\\textsf{${name.replace(/_/g, '\\_')}}}}`);

/** TeX in which a variable goes by another name. */
export const renameInTex = (tex: string, from: string, to: string): string =>
  tex.replace(place, (whole, _, name: string) =>
    name === from ? whole.replace(/\{[^{}]*\}$/, () => `{${to}}`) : whole,
  );

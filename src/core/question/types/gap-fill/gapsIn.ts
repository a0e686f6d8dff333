import { type Rich, richNodes } from '../../../base/rich';

/** The ids of the gaps in a running text, in reading order; one that stands twice is given twice. */
export const gapsIn = (stem: Rich): string[] =>
  [...richNodes(stem)].flatMap((node) => (node.type === 'gap' ? [node.attrs.id] : []));

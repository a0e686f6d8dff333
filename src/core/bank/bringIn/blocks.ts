import type { ReadLine } from './lineForms';

/** Lines that stand together: those of one question, of a list of keys, or of what was not read or is nothing. */
export type Block = {
  kind: 'question' | 'keys' | 'unread' | 'nothing';
  /** The question, by its place among those read. */
  item: number | null;
  /** Its first and last line, from 0, both included. */
  from: number;
  to: number;
};

/** A text that was read, cut into blocks in the order of its lines; empty lines go with what stands above them. */
export function blocksOf(roles: readonly ReadLine[]): Block[] {
  const blocks: Block[] = [];
  roles.forEach(({ role, item }, i) => {
    const open = blocks[blocks.length - 1];
    if (role === 'blank') {
      if (open) open.to = i;
      return;
    }
    const kind = item !== null ? 'question' : role === 'keys' ? 'keys' : role === 'nothing' ? 'nothing' : 'unread';
    // The question begins anew where two of them follow one another.
    if (open && open.kind === kind && open.item === item) open.to = i;
    else blocks.push({ kind, item, from: i, to: i });
  });
  return blocks;
}

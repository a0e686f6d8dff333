import { Extension } from '@tiptap/core';
import { Plugin } from '@tiptap/pm/state';
import { type RichFault, readRichOrFault } from '@/core/base/rich';

type Loose = { type?: string; attrs?: Record<string, unknown>; content?: Loose[] };

/** The document without formulas that are still empty, which the format does not know. */
function withoutUnfinished(node: Loose): Loose {
  if (!node.content) return node;
  const content = node.content.filter((one) => !(one.type === 'math' && String(one.attrs?.tex ?? '').trim() === ''));
  return { ...node, content: content.map(withoutUnfinished) };
}

/** A document of the editor as rich content, or why it is none. */
export const readDoc = (json: Loose) => readRichOrFault(withoutUnfinished(json));

/**
 * Lets nothing into a text that could not be kept: a change that would make it too long, or bring in what the format does not
 * know, is not carried out, and it is said why. What stands in the text can always be saved.
 */
export const keepable = (refused: (fault: RichFault | null) => void) =>
  Extension.create({
    name: 'keepable',
    addProseMirrorPlugins: () => [
      new Plugin({
        filterTransaction(transaction) {
          if (!transaction.docChanged) return true;
          const read = readDoc(transaction.doc.toJSON());
          refused(typeof read === 'string' ? read : null);
          return typeof read !== 'string';
        },
      }),
    ],
  });

import type { Rich, RichBlock, RichInline } from '@/core/base/rich';

const tagOf = { bold: 'b', italic: 'i', underline: 'u', code: 'code', subscript: 'sub', superscript: 'sup' } as const;
const markOf: Record<string, keyof typeof tagOf> = {
  B: 'bold',
  STRONG: 'bold',
  I: 'italic',
  EM: 'italic',
  U: 'underline',
  CODE: 'code',
  SUB: 'subscript',
  SUP: 'superscript',
};

/** Puts rich content into an editable element, node by node. */
export function fillWith(element: HTMLElement, rich: Rich): void {
  const inline = (one: RichInline): Node => {
    if (one.type !== 'text') return document.createElement('br');
    return (one.marks ?? []).reduce<Node>((inner, mark) => {
      if (mark.type === 'link') return inner;
      const wrap = document.createElement(tagOf[mark.type]);
      wrap.append(inner);
      return wrap;
    }, document.createTextNode(one.text));
  };
  const block = (one: RichBlock): Node => {
    if (one.type === 'bulletList' || one.type === 'orderedList') {
      const list = document.createElement(one.type === 'bulletList' ? 'ul' : 'ol');
      for (const item of one.content) {
        const row = document.createElement('li');
        for (const inner of item.content)
          row.append(...(inner.type === 'paragraph' ? (inner.content ?? []).map(inline) : [block(inner)]));
        list.append(row);
      }
      return list;
    }
    const paragraph = document.createElement('div');
    const content = one.type === 'paragraph' ? (one.content ?? []) : [];
    paragraph.append(...(content.length ? content.map(inline) : [document.createElement('br')]));
    return paragraph;
  };
  element.replaceChildren(...rich.content.map(block));
}

/** Reads an editable element as a document of paragraphs and lists; what the format does not know is kept as text. */
export function readFrom(element: HTMLElement): Rich {
  const blocks: RichBlock[] = [];
  let open: RichInline[] | null = null;
  const add = (inline: RichInline) => {
    if (!open) {
      open = [];
      blocks.push({ type: 'paragraph', content: open });
    }
    open.push(inline);
  };
  const inlines = (node: Node, marks: (keyof typeof tagOf)[], to: (inline: RichInline) => void): void => {
    for (const child of node.childNodes) {
      if (child.nodeType === 3) {
        const text = (child.textContent ?? '').replace(/\u00a0/g, ' ').replace(/\n/g, ' ');
        if (text)
          to(marks.length ? { type: 'text', text, marks: marks.map((type) => ({ type })) } : { type: 'text', text });
      } else if (child.nodeName === 'BR') {
        if (child.nextSibling) to({ type: 'hardBreak' });
      } else {
        const mark = markOf[child.nodeName];
        inlines(child, mark && !marks.includes(mark) ? [...marks, mark] : marks, to);
      }
    }
  };
  for (const child of element.childNodes) {
    const name = child.nodeName;
    if (name === 'UL' || name === 'OL') {
      open = null;
      const items = [...child.childNodes]
        .filter((item) => item.nodeName === 'LI')
        .map((item) => {
          const content: RichInline[] = [];
          inlines(item, [], (inline) => content.push(inline));
          return {
            type: 'listItem' as const,
            content: [content.length ? { type: 'paragraph' as const, content } : { type: 'paragraph' as const }],
          };
        });
      blocks.push({ type: name === 'UL' ? 'bulletList' : 'orderedList', content: items });
    } else if (name === 'DIV' || name === 'P') {
      const nested = [...child.childNodes].some((one) => one.nodeName === 'UL' || one.nodeName === 'OL');
      if (nested) blocks.push(...readFrom(child as HTMLElement).content);
      else {
        const content: RichInline[] = [];
        inlines(child, [], (inline) => content.push(inline));
        blocks.push(content.length ? { type: 'paragraph', content } : { type: 'paragraph' });
      }
      open = null;
    } else if (name === 'BR') {
      if (!open) blocks.push({ type: 'paragraph' });
      open = null;
    } else {
      const around = document.createElement('span');
      around.append(child.cloneNode(true));
      inlines(around, [], add);
    }
  }
  return { type: 'doc', content: blocks };
}

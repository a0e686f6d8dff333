import type { ReactNode } from 'react';
import type { Rich, RichBlock, RichInline, RichMark } from '@/core/base/rich';

/** Shows rich content. Every element is built from a node that the format knows; no markup is ever inserted. */
export function RichText({ rich, className = '' }: { rich: Rich; className?: string }) {
  return <div className={`running-text ${className}`}>{rich.content.map((block, i) => showBlock(block, i))}</div>;
}

function showBlock(block: RichBlock, key: number): ReactNode {
  switch (block.type) {
    case 'paragraph':
      return <p key={key}>{block.content?.length ? block.content.map(showInline) : <br />}</p>;
    case 'codeBlock':
      return (
        <pre key={key}>
          <code>{block.content?.map((text) => text.text).join('')}</code>
        </pre>
      );
    case 'bulletList':
    case 'orderedList': {
      const List = block.type === 'bulletList' ? 'ul' : 'ol';
      return (
        <List key={key}>
          {block.content.map((item, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the content never reorders while it is shown
            <li key={i}>{item.content.map(showBlock)}</li>
          ))}
        </List>
      );
    }
    case 'table':
      return (
        <table key={key}>
          <tbody>
            {block.content.map((row, r) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the content never reorders while it is shown
              <tr key={r}>
                {row.content.map((cell, c) => {
                  const Cell = cell.type === 'tableHeader' ? 'th' : 'td';
                  // biome-ignore lint/suspicious/noArrayIndexKey: the content never reorders while it is shown
                  return <Cell key={c}>{cell.content.map(showBlock)}</Cell>;
                })}
              </tr>
            ))}
          </tbody>
        </table>
      );
  }
}

const tags = {
  bold: 'strong',
  italic: 'em',
  code: 'code',
  subscript: 'sub',
  superscript: 'sup',
  underline: 'u',
} as const;

function showInline(inline: RichInline, key: number): ReactNode {
  if (inline.type === 'hardBreak') return <br key={key} />;
  return (inline.marks ?? []).reduce<ReactNode>((inner, mark) => wrap(mark, inner, key), inline.text);
}

function wrap(mark: RichMark, inner: ReactNode, key: number): ReactNode {
  if (mark.type === 'link')
    return (
      <a key={key} href={mark.attrs.href} target="_blank" rel="noreferrer noopener">
        {inner}
      </a>
    );
  const Tag = tags[mark.type];
  return <Tag key={key}>{inner}</Tag>;
}

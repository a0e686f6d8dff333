import { Fragment, type ReactNode } from 'react';
import type { Rich, RichBlock, RichInline, RichMark, RichMedia } from '@/core/base/rich';

type Props = {
  rich: Rich;
  className?: string;
  /** What stands in the place of a gap: a field, or the answer. */
  gap?: (id: string) => ReactNode;
};

/**
 * Shows rich content. Every element is built from a node that the format knows. The only markup ever inserted is what
 * the mathematics renderer made from a formula; it is never read from what someone stored.
 */
export function RichText({ rich, className = '', gap }: Props) {
  return <div className={`running-text ${className}`}>{rich.content.map((block, i) => showBlock(block, i, gap))}</div>;
}

function showBlock(block: RichBlock, key: number, gap: Props['gap']): ReactNode {
  const inner = (blocks: RichBlock[]) => blocks.map((one, i) => showBlock(one, i, gap));
  switch (block.type) {
    case 'paragraph':
      return <p key={key}>{block.content?.length ? block.content.map((one, i) => showInline(one, i, gap)) : <br />}</p>;
    case 'media':
      return <Media key={key} media={block} />;
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
            <li key={i}>{inner(item.content)}</li>
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
                  return <Cell key={c}>{inner(cell.content)}</Cell>;
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

function Media({ media: { attrs } }: { media: RichMedia }) {
  const src = `/media/${attrs.hash}`;
  if (attrs.kind === 'sound')
    return (
      // biome-ignore lint/a11y/useMediaCaption: what is heard is the question; its text alternative stands as the label
      <audio controls preload="metadata" src={src} aria-label={attrs.alt || 'Sound'} className="my-2 w-full max-w-md" />
    );
  if (attrs.kind === 'video')
    return (
      // biome-ignore lint/a11y/useMediaCaption: the text alternative stands as the label
      <video
        controls
        preload="metadata"
        src={src}
        aria-label={attrs.alt || 'Video'}
        className="my-2 max-h-96 max-w-full"
      />
    );
  return (
    // biome-ignore lint/performance/noImgElement: pictures come from the data folder, checked for permission on each request
    <img
      src={src}
      alt={attrs.alt}
      width={attrs.width ?? undefined}
      height={attrs.height ?? undefined}
      className="my-2 h-auto max-w-full"
    />
  );
}

function showInline(inline: RichInline, key: number, gap: Props['gap']): ReactNode {
  switch (inline.type) {
    case 'hardBreak':
      return <br key={key} />;
    case 'gap':
      return <Fragment key={key}>{gap ? gap(inline.attrs.id) : <span className="mx-1">____</span>}</Fragment>;
    case 'variable':
      return <span key={key}>?</span>;
    case 'math': {
      const { tex, html, display } = inline.attrs;
      if (!html) return <code key={key}>{tex}</code>;
      // biome-ignore lint/security/noDangerouslySetInnerHtml: made by the renderer from TeX, never stored or sent by anyone
      return <span key={key} className={display ? 'block' : ''} dangerouslySetInnerHTML={{ __html: html }} />;
    }
    case 'text':
      break;
  }
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

'use client';
import { mergeAttributes, Node } from '@tiptap/core';
import { NodeViewWrapper, type ReactNodeViewProps, ReactNodeViewRenderer } from '@tiptap/react';
import katex from 'katex';
import { useState } from 'react';
import type { MediaKind } from '@/core/base/rich';
import { typesetTex } from '@/core/base/typeset';
import { counted } from '@/core/base/words';
import { nameTex } from '@/core/question/variables/mathValues';
import { TextButton } from '../../kit/TextButton';
import { useAuthoring } from '../authoring';

/**
 * The nodes of the rich-content format that the editor's own kit does not have: mathematics, the place of a variable's
 * value, the place of a gap, and pictures, sound and video. Each is an atom that holds ids, never typed codes.
 */

function MathView({ node, updateAttributes, selected, deleteNode, editor }: ReactNodeViewProps) {
  const { tex, display } = node.attrs as { tex: string; display: boolean };
  const [open, setOpen] = useState(tex === '');
  const drawn = typesetTex(nameTex(tex || '?'), display, katex);
  const { variables } = useAuthoring();
  const close = () => {
    if (tex.trim() === '') deleteNode();
    else setOpen(false);
    editor.commands.focus();
  };
  return (
    <NodeViewWrapper as="span" className={`relative inline-block ${selected || open ? 'bg-prussian-wash' : ''}`}>
      <button
        type="button"
        contentEditable={false}
        title="Formula: press to change it"
        aria-label={`Formula ${tex}`}
        onClick={() => setOpen(true)}
        className="px-0.5"
        // biome-ignore lint/security/noDangerouslySetInnerHtml: made by the renderer from TeX
        dangerouslySetInnerHTML={{ __html: drawn.html }}
      />
      {open && (
        <span
          contentEditable={false}
          className="absolute top-full left-0 z-20 flex w-80 flex-col gap-1 border border-line bg-sheet p-2 font-sans text-sm shadow-md"
        >
          <label className="font-medium">
            Formula in TeX
            <input
              // biome-ignore lint/a11y/noAutofocus: the field opens because its author asked for it
              autoFocus
              value={tex}
              placeholder="\frac{D}{V} \times 60"
              onChange={(event) => updateAttributes({ tex: event.target.value })}
              onKeyDown={(event) => {
                // What the sheet does by Ctrl is done from here too.
                if (event.ctrlKey || event.metaKey) return;
                event.stopPropagation();
                if (event.key === 'Enter' || event.key === 'Escape') {
                  event.preventDefault();
                  close();
                }
              }}
              className="mt-1 min-h-9 w-full rounded-sm border border-edge px-2 font-mono font-normal"
            />
          </label>
          {variables.length > 0 && (
            <select
              aria-label="Put a value into the formula"
              value=""
              onChange={(event) =>
                updateAttributes({ tex: `${tex}${tex && !tex.endsWith(' ') ? ' ' : ''}\\value{${event.target.value}}` })
              }
              className="self-start rounded-sm bg-plum-wash px-1 py-1 text-plum"
            >
              <option value="">Put in a value</option>
              {variables.map((variable) => (
                <option key={variable.id} value={variable.name}>
                  {variable.name}
                </option>
              ))}
            </select>
          )}
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={display}
              onChange={(event) => updateAttributes({ display: event.target.checked })}
              className="accent-prussian"
            />
            On a line of its own
          </label>
          {tex && drawn.problem && <span className="text-brick">{drawn.problem}</span>}
          <TextButton className="self-end" onClick={close}>
            Done
          </TextButton>
        </span>
      )}
    </NodeViewWrapper>
  );
}

export const MathNode = Node.create({
  name: 'math',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ tex: { default: '' }, display: { default: false } }),
  parseHTML: () => [
    {
      tag: 'span[data-tex]',
      getAttrs: (element) => ({
        tex: element.getAttribute('data-tex') ?? '',
        display: element.getAttribute('data-display') === 'true',
      }),
    },
  ],
  renderHTML: ({ node }) => [
    'span',
    { 'data-tex': node.attrs.tex, 'data-display': node.attrs.display },
    node.attrs.tex,
  ],
  addNodeView: () => ReactNodeViewRenderer(MathView, { as: 'span' }),
});

const chip = 'mx-0.5 inline-flex items-center rounded-sm border px-1.5 font-sans text-sm leading-snug';

function VariableView({ node, updateAttributes, selected }: ReactNodeViewProps) {
  const { variables } = useAuthoring();
  const { id, decimals } = node.attrs as { id: string; decimals: number | null };
  const name = variables.find((variable) => variable.id === id)?.name;
  return (
    <NodeViewWrapper
      as="span"
      contentEditable={false}
      className={`${chip} ${name ? 'border-plum bg-plum-wash text-plum' : 'border-brick bg-brick-wash text-brick'} ${selected ? 'outline-2 outline-prussian' : ''}`}
    >
      {name ?? 'no such value'}
      {selected && (
        <select
          aria-label={`Decimals of ${name}`}
          value={decimals ?? ''}
          onChange={(event) =>
            updateAttributes({ decimals: event.target.value === '' ? null : Number(event.target.value) })
          }
          className="ml-1 bg-transparent"
        >
          <option value="">as it is</option>
          {[0, 1, 2, 3, 4].map((count) => (
            <option key={count} value={count}>
              {counted(count, 'decimal')}
            </option>
          ))}
        </select>
      )}
    </NodeViewWrapper>
  );
}

export const VariableNode = Node.create({
  name: 'variable',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ id: { default: '' }, decimals: { default: null } }),
  parseHTML: () => [
    {
      tag: 'span[data-variable]',
      getAttrs: (element) => {
        const decimals = element.getAttribute('data-decimals');
        return {
          id: element.getAttribute('data-variable'),
          decimals: decimals === null || decimals === '' ? null : Number(decimals),
        };
      },
    },
  ],
  renderHTML: ({ node }) => ['span', { 'data-variable': node.attrs.id, 'data-decimals': node.attrs.decimals }],
  addNodeView: () => ReactNodeViewRenderer(VariableView, { as: 'span' }),
});

function GapView({ node, selected }: ReactNodeViewProps) {
  const { gapText, openGap } = useAuthoring();
  const id = node.attrs.id as string;
  return (
    <NodeViewWrapper as="span" contentEditable={false}>
      <button
        type="button"
        onClick={() => openGap(id)}
        title="A gap: press for its answers"
        className={`${chip} gap-chip border-pine bg-pine-wash text-pine ${selected ? 'outline-2 outline-prussian' : ''}`}
      >
        {gapText(id) || 'no answer yet'}
      </button>
    </NodeViewWrapper>
  );
}

export const GapNode = Node.create({
  name: 'gap',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ id: { default: '' } }),
  parseHTML: () => [{ tag: 'span[data-gap]', getAttrs: (element) => ({ id: element.getAttribute('data-gap') }) }],
  renderHTML: ({ node }) => ['span', { 'data-gap': node.attrs.id }],
  addNodeView: () => ReactNodeViewRenderer(GapView, { as: 'span' }),
});

function MediaView({ node, updateAttributes, deleteNode, selected }: ReactNodeViewProps) {
  const { hash, kind, alt, width, height } = node.attrs as {
    hash: string;
    kind: MediaKind;
    alt: string;
    width: number | null;
    height: number | null;
  };
  const src = `/media/${hash}`;
  return (
    <NodeViewWrapper
      contentEditable={false}
      className={`my-1 w-fit max-w-full border p-1 ${selected ? 'border-prussian' : 'border-line'}`}
    >
      {kind === 'picture' && (
        // biome-ignore lint/performance/noImgElement: pictures come from the data folder
        <img
          src={src}
          alt={alt}
          width={width ?? undefined}
          height={height ?? undefined}
          className="h-auto max-h-64 w-auto max-w-full"
        />
      )}
      {/* biome-ignore lint/a11y/useMediaCaption: the author writes the text alternative beside it */}
      {kind === 'sound' && <audio controls src={src} />}
      {/* biome-ignore lint/a11y/useMediaCaption: the author writes the text alternative beside it */}
      {kind === 'video' && <video controls src={src} className="max-h-64" />}
      <div className="mt-1 flex items-center gap-2 font-sans text-sm">
        <input
          aria-label="What it shows, for those who cannot see or hear it"
          placeholder="What it shows, for those who cannot see or hear it"
          value={alt}
          onChange={(event) => updateAttributes({ alt: event.target.value })}
          onKeyDown={(event) => !event.ctrlKey && !event.metaKey && event.stopPropagation()}
          className={`min-h-8 w-full min-w-72 rounded-sm border px-2 ${alt.trim() ? 'border-edge' : 'border-saffron bg-saffron-wash'}`}
        />
        <TextButton onClick={deleteNode}>Remove</TextButton>
      </div>
    </NodeViewWrapper>
  );
}

export const MediaNode = Node.create({
  name: 'media',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes: () => ({
    hash: { default: '' },
    kind: { default: 'picture' },
    alt: { default: '' },
    width: { default: null },
    height: { default: null },
  }),
  parseHTML: () => [
    {
      tag: 'figure[data-media]',
      getAttrs: (element) => ({
        hash: element.getAttribute('data-media'),
        kind: element.getAttribute('data-kind'),
        alt: element.getAttribute('data-alt') ?? '',
        width: Number(element.getAttribute('data-width')) || null,
        height: Number(element.getAttribute('data-height')) || null,
      }),
    },
  ],
  renderHTML: ({ node, HTMLAttributes }) => [
    'figure',
    mergeAttributes(HTMLAttributes, {
      'data-media': node.attrs.hash,
      'data-kind': node.attrs.kind,
      'data-alt': node.attrs.alt,
      'data-width': node.attrs.width,
      'data-height': node.attrs.height,
    }),
  ],
  addNodeView: () => ReactNodeViewRenderer(MediaView),
});

'use client';
import Subscript from '@tiptap/extension-subscript';
import Superscript from '@tiptap/extension-superscript';
import { TableKit } from '@tiptap/extension-table';
import { type Editor, EditorContent, useEditor, useEditorState } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { type KeyboardEvent, useEffect, useId, useRef, useState } from 'react';
import { isSafeLink, type Rich, type RichFault, richFaultSaid } from '@/core/base/rich';
import { useAuthoring } from '../authoring';
import { isText } from '../textOrder';
import { keepable, readDoc } from './keepable';
import { LinkField } from './LinkField';
import { GapNode, MathNode, MediaNode, VariableNode } from './nodes';
import { shownByTools, TextTools, textTools } from './TextTools';

type Props = {
  label: string;
  /** Whether the label is only for people who hear the page. */
  quiet?: boolean;
  value: Rich;
  onChange: (value: Rich) => void;
  problem?: string | null;
  /** A lower field for choices and feedback. */
  low?: boolean;
  /** One of the texts a question is written in: Tab leads from one to the next. */
  writes?: boolean;
  /** Whether the cursor stands in it at once. */
  begins?: boolean;
  /** Takes several lines that are pasted at once, each by itself. */
  onLines?: (lines: string[]) => void;
  /** Makes a gap of the selected words: gives the id of the new gap. Only for a running text with gaps. */
  makeGap?: (words: string) => string;
};

/** Edits rich content: exactly the nodes and marks of the format, so that nothing typed here is refused on the server. */
export function RichEditor({ label, quiet, value, onChange, problem, low, writes, begins, onLines, makeGap }: Props) {
  const id = useId();
  const [active, setActive] = useState(false);
  const [linking, setLinking] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const [fileProblem, setFileProblem] = useState<string | null>(null);
  const authoring = useAuthoring();
  const filePicker = useRef<HTMLInputElement>(null);
  const shown = useRef(value);
  // The editor is made once; what it calls later is looked up here.
  const [fault, setFault] = useState<RichFault | null>(null);
  const latest = useRef({ makeGap, onLines, bring: (_: File) => {}, refused: setFault });
  const editor = useEditor({
    immediatelyRender: false,
    autofocus: begins ? 'end' : false,
    extensions: [
      StarterKit.configure({
        heading: false,
        blockquote: false,
        horizontalRule: false,
        strike: false,
        link: { openOnClick: false, protocols: ['https', 'http', 'mailto'], isAllowedUri: isSafeLink },
      }),
      Subscript,
      Superscript,
      TableKit.configure({ table: { resizable: false } }),
      MathNode,
      VariableNode,
      GapNode,
      MediaNode,
      keepable((fault) => latest.current.refused(fault)),
    ],
    content: value.content.length ? value : '',
    editorProps: {
      // The sheet saves by it: it must not come into the text as a break of the line.
      handleKeyDown: (_view, event) => (event.ctrlKey || event.metaKey) && event.key === 'Enter',
      handlePaste: (view, event) => {
        const take = latest.current.onLines;
        const lines = (event.clipboardData?.getData('text/plain') ?? '')
          .split(/\r?\n/)
          .filter((line) => line.trim() !== '');
        if (!take || lines.length < 2 || view.state.doc.textContent.trim() !== '') return false;
        event.preventDefault();
        take(lines);
        return true;
      },
      attributes: {
        role: 'textbox',
        ...(writes ? isText : {}),
        'aria-multiline': 'true',
        'aria-labelledby': `${id}-label`,
        ...(problem ? { 'aria-invalid': 'true', 'aria-describedby': `${id}-problem` } : {}),
        class: `gap-text running-text rounded-sm border bg-sheet px-2.5 py-1.5 ${problem ? 'border-2 border-brick' : 'border-edge'} ${low ? 'min-h-9' : 'min-h-24'}`,
      },
    },
    onUpdate: ({ editor: current }) => {
      const read = readDoc(current.getJSON());
      if (typeof read === 'string') return;
      shown.current = read;
      onChange(read);
    },
    onFocus: () => setActive(true),
    onBlur: ({ event }) => {
      const to = event.relatedTarget as HTMLElement | null;
      if (!box.current?.contains(to)) setActive(false);
    },
  });
  // Content that was changed elsewhere (a value that got another name) comes into the text; the author's own typing is there already.
  useEffect(() => {
    if (!editor || shown.current === value) return;
    const before = JSON.stringify(shown.current);
    shown.current = value;
    if (before !== JSON.stringify(value)) editor.commands.setContent(value, { emitUpdate: false });
  }, [editor, value]);
  const turnIntoGap = () => {
    if (!editor || !latest.current.makeGap) return;
    const selected = selectedNow(editor);
    const between = editor.state.doc.textBetween(selected.from, selected.to, ' ', ' ');
    const words = between.trim();
    // The spaces around the words stay in the text.
    const before = words === '' ? 0 : between.length - between.trimStart().length;
    const after = words === '' ? 0 : between.length - between.trimEnd().length;
    const [from, to] = [selected.from + before, selected.to - after];
    const gapId = latest.current.makeGap(words);
    editor
      .chain()
      .focus()
      .setTextSelection({ from, to })
      .insertContent({ type: 'gap', attrs: { id: gapId } })
      .run();
  };
  const bring = async (file: File) => {
    if (!editor || !authoring.store) return;
    setFileProblem(null);
    const stored = await authoring.store(file);
    if (!stored.ok) setFileProblem(stored.message);
    else
      editor
        .chain()
        .focus()
        .insertContent({ type: 'media', attrs: { ...stored.media, alt: '' } })
        .run();
  };
  latest.current = { makeGap, onLines, bring: (file) => void bring(file), refused: setFault };
  // The tools say what is so at the cursor: they are drawn anew when that changes.
  useEditorState({
    editor,
    selector: ({ editor: current }) => (current ? shownByTools.filter((name) => current.isActive(name)).join() : ''),
  });
  const tools = editor
    ? textTools({
        editor,
        pickFile: authoring.store ? () => filePicker.current?.click() : null,
        link: () => setLinking(true),
      })
    : [];
  const pressTool = (event: KeyboardEvent) => {
    if (event.altKey && event.code === 'KeyG' && makeGap) turnIntoGap();
    else if (event.altKey && event.key === 'F10')
      box.current?.querySelector<HTMLElement>('[role="toolbar"] button')?.focus();
    else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') setLinking(true);
    else {
      const tool = event.altKey && !event.ctrlKey && tools.find((one) => one.alt === event.code);
      if (!tool) return;
      tool.run();
    }
    event.preventDefault();
  };
  return (
    <div ref={box} className="relative">
      <span id={`${id}-label`} className={quiet ? 'sr-only' : 'mb-1 block text-sm font-medium'}>
        {label}
      </span>
      {active && editor && (
        <TextTools
          label={label}
          editor={editor}
          tools={tools}
          variables={authoring.variables}
          onGap={makeGap ? turnIntoGap : null}
          onLeave={() => setActive(false)}
        />
      )}
      {authoring.store && (
        <input
          ref={filePicker}
          type="file"
          hidden
          aria-label={`Picture, sound or video for ${label.toLowerCase()}`}
          accept="image/png,image/jpeg,image/webp,image/gif,image/svg+xml,audio/mpeg,audio/ogg,audio/wav,video/mp4,video/webm"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = '';
            if (file) latest.current.bring(file);
          }}
        />
      )}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the key works in the text inside */}
      <div
        onKeyDown={pressTool}
        onPasteCapture={(event) => {
          const file = [...event.clipboardData.files].find((one) => /^(image|audio|video)\//.test(one.type));
          const leftOut = /<img\b/i.test(event.clipboardData.getData('text/html'));
          const way = authoring.store ? 'Paste it by itself, or put it in with Alt+P.' : 'No pictures can stand here.';
          setFileProblem(leftOut ? `A picture in what you pasted was left out. ${way}` : null);
          if (!file || event.clipboardData.types.includes('text/html')) return;
          event.preventDefault();
          event.stopPropagation();
          latest.current.bring(file);
        }}
      >
        <EditorContent editor={editor} />
      </div>
      {linking && editor && <LinkField editor={editor} onClose={() => setLinking(false)} />}
      {(fileProblem ?? fault) && (
        <p role="alert" className="mt-1 text-sm text-brick">
          {fileProblem ?? (fault && richFaultSaid(fault))}
        </p>
      )}
      {problem && (
        <p id={`${id}-problem`} className="mt-1 text-sm text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}

/** The positions that are selected in the text, as the browser has them: the editor hears of a selection only a moment after it is made. */
function selectedNow(editor: Editor): { from: number; to: number } {
  const { anchorNode, anchorOffset, focusNode, focusOffset } = window.getSelection() ?? {};
  const { dom } = editor.view;
  if (!anchorNode || !focusNode || !dom.contains(anchorNode) || !dom.contains(focusNode)) return editor.state.selection;
  const anchor = editor.view.posAtDOM(anchorNode, anchorOffset ?? 0);
  const head = editor.view.posAtDOM(focusNode, focusOffset ?? 0);
  return { from: Math.min(anchor, head), to: Math.max(anchor, head) };
}

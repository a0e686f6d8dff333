'use client';
import Subscript from '@tiptap/extension-subscript';
import Superscript from '@tiptap/extension-superscript';
import { TableKit } from '@tiptap/extension-table';
import { type Editor, EditorContent, useEditor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import {
  Bold,
  Code,
  ImagePlus,
  Italic,
  List,
  ListOrdered,
  Sigma,
  Subscript as SubscriptIcon,
  Superscript as SuperscriptIcon,
  Table,
} from 'lucide-react';
import { useEffect, useId, useRef, useState } from 'react';
import { type Rich, readRich } from '@/core/base/rich';
import { useAuthoring } from '../authoring';
import { isText } from '../textOrder';
import { GapNode, MathNode, MediaNode, VariableNode } from './nodes';

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
  const [fileProblem, setFileProblem] = useState<string | null>(null);
  const authoring = useAuthoring();
  const filePicker = useRef<HTMLInputElement>(null);
  const shown = useRef(value);
  // The editor is made once; what it calls later is looked up here.
  const latest = useRef({ makeGap, onLines, bring: (_: File) => {} });
  const editor = useEditor({
    immediatelyRender: false,
    autofocus: begins ? 'end' : false,
    extensions: [
      StarterKit.configure({
        heading: false,
        blockquote: false,
        horizontalRule: false,
        strike: false,
        link: { openOnClick: false, protocols: ['https', 'http', 'mailto'] },
      }),
      Subscript,
      Superscript,
      TableKit.configure({ table: { resizable: false } }),
      MathNode,
      VariableNode,
      GapNode,
      MediaNode,
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
      const read = readRich(withoutUnfinished(current.getJSON()));
      if (!read) return;
      shown.current = read;
      onChange(read);
    },
    onFocus: () => setActive(true),
    onBlur: ({ event }) => {
      const to = event.relatedTarget as HTMLElement | null;
      if (!to?.closest(`[data-tools="${id}"]`)) setActive(false);
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
    const { from, to } = selectedNow(editor);
    const words = editor.state.doc.textBetween(from, to, ' ').trim();
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
  latest.current = { makeGap, onLines, bring: (file) => void bring(file) };
  const tools = editor
    ? ([
        ['Bold', 'Ctrl+B', Bold, () => editor.chain().focus().toggleBold().run(), editor.isActive('bold')],
        ['Italic', 'Ctrl+I', Italic, () => editor.chain().focus().toggleItalic().run(), editor.isActive('italic')],
        [
          'Subscript',
          'Ctrl+,',
          SubscriptIcon,
          () => editor.chain().focus().toggleSubscript().run(),
          editor.isActive('subscript'),
        ],
        [
          'Superscript',
          'Ctrl+.',
          SuperscriptIcon,
          () => editor.chain().focus().toggleSuperscript().run(),
          editor.isActive('superscript'),
        ],
        ['List', '', List, () => editor.chain().focus().toggleBulletList().run(), editor.isActive('bulletList')],
        [
          'Numbered list',
          '',
          ListOrdered,
          () => editor.chain().focus().toggleOrderedList().run(),
          editor.isActive('orderedList'),
        ],
        [
          'Table',
          '',
          Table,
          () => editor.chain().focus().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run(),
          false,
        ],
        ['Code', '', Code, () => editor.chain().focus().toggleCodeBlock().run(), editor.isActive('codeBlock')],
        [
          'Formula',
          '',
          Sigma,
          () =>
            editor
              .chain()
              .insertContent({ type: 'math', attrs: { tex: '', display: false } })
              .run(),
          false,
        ],
        ...(authoring.store
          ? ([['Picture, sound or video', '', ImagePlus, () => filePicker.current?.click(), false]] as const)
          : []),
      ] as const)
    : [];
  return (
    <div className="relative">
      <span id={`${id}-label`} className={quiet ? 'sr-only' : 'mb-1 block text-sm font-medium'}>
        {label}
      </span>
      {active && (
        <div
          data-tools={id}
          role="toolbar"
          aria-label={`Form of ${label.toLowerCase()}`}
          className="absolute right-1 z-10 flex -translate-y-full border border-line bg-sheet shadow-sm"
        >
          {tools.map(([name, keys, Icon, run, on]) => (
            <button
              key={name}
              type="button"
              aria-label={name}
              aria-pressed={on}
              title={keys ? `${name} (${keys})` : name}
              tabIndex={-1}
              onMouseDown={(event) => event.preventDefault()}
              onClick={run}
              className={`p-1.5 ${on ? 'bg-prussian-wash text-prussian' : 'hover:bg-paper'}`}
            >
              <Icon size={15} />
            </button>
          ))}
          {makeGap && (
            <button
              type="button"
              tabIndex={-1}
              title="Turn the selected words into a gap (Alt+G)"
              onMouseDown={(event) => event.preventDefault()}
              onClick={turnIntoGap}
              className="px-2 text-sm text-pine hover:bg-pine-wash"
            >
              Make a gap
            </button>
          )}
          {authoring.variables.length > 0 && (
            <select
              aria-label="Put in a value"
              value=""
              onChange={(event) => {
                editor
                  ?.chain()
                  .focus()
                  .insertContent({ type: 'variable', attrs: { id: event.target.value, decimals: null } })
                  .run();
              }}
              className="bg-plum-wash px-1 text-sm text-plum"
            >
              <option value="">Put in a value</option>
              {authoring.variables.map((variable) => (
                <option key={variable.id} value={variable.id}>
                  {variable.name}
                </option>
              ))}
            </select>
          )}
        </div>
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
        onKeyDown={(event) => {
          if (!event.altKey || event.key.toLowerCase() !== 'g' || !makeGap) return;
          event.preventDefault();
          turnIntoGap();
        }}
        onPasteCapture={(event) => {
          const file = [...event.clipboardData.files].find((one) => /^(image|audio|video)\//.test(one.type));
          if (!file || event.clipboardData.types.includes('text/html')) return;
          event.preventDefault();
          event.stopPropagation();
          latest.current.bring(file);
        }}
      >
        <EditorContent editor={editor} />
      </div>
      {fileProblem && (
        <p role="alert" className="mt-1 text-sm text-brick">
          {fileProblem}
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

type Loose = { type?: string; attrs?: Record<string, unknown>; content?: Loose[] };

/** The document without formulas that are still empty, which the format does not know. */
function withoutUnfinished(node: Loose): Loose {
  if (!node.content) return node;
  const content = node.content.filter((one) => !(one.type === 'math' && String(one.attrs?.tex ?? '').trim() === ''));
  return { ...node, content: content.map(withoutUnfinished) };
}

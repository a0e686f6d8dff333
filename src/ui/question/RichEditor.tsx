'use client';
import Subscript from '@tiptap/extension-subscript';
import Superscript from '@tiptap/extension-superscript';
import { TableKit } from '@tiptap/extension-table';
import { EditorContent, useEditor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import {
  Bold,
  Italic,
  List,
  ListOrdered,
  Subscript as SubscriptIcon,
  Superscript as SuperscriptIcon,
  Table,
} from 'lucide-react';
import { useId, useState } from 'react';
import { type Rich, readRich } from '@/core/base/rich';

type Props = {
  label: string;
  /** Whether the label is only for people who hear the page. */
  quiet?: boolean;
  value: Rich;
  onChange: (value: Rich) => void;
  problem?: string | null;
  /** A lower field for choices and feedback. */
  low?: boolean;
};

/** Edits rich content: exactly the nodes and marks of the format, so that nothing typed here is refused on the server. */
export function RichEditor({ label, quiet, value, onChange, problem, low }: Props) {
  const id = useId();
  const [active, setActive] = useState(false);
  const editor = useEditor({
    immediatelyRender: false,
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
    ],
    content: value.content.length ? value : '',
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-labelledby': `${id}-label`,
        ...(problem ? { 'aria-invalid': 'true', 'aria-describedby': `${id}-problem` } : {}),
        class: `running-text rounded-sm border bg-sheet px-2.5 py-1.5 ${problem ? 'border-2 border-brick' : 'border-edge'} ${low ? 'min-h-9' : 'min-h-24'}`,
      },
    },
    onUpdate: ({ editor: current }) => onChange(readRich(current.getJSON()) ?? { type: 'doc', content: [] }),
    onFocus: () => setActive(true),
    onBlur: ({ event }) => {
      const to = event.relatedTarget as HTMLElement | null;
      if (!to?.closest(`[data-tools="${id}"]`)) setActive(false);
    },
  });
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
        </div>
      )}
      <EditorContent editor={editor} />
      {problem && (
        <p id={`${id}-problem`} className="mt-1 text-sm text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}

import type { Editor } from '@tiptap/react';
import {
  Bold,
  Code,
  ImagePlus,
  Italic,
  Link,
  List,
  ListOrdered,
  type LucideIcon,
  Sigma,
  Subscript,
  Superscript,
  Table,
} from 'lucide-react';
import type { KeyboardEvent } from 'react';
import type { Variable } from '@/core/question/variables/variation';

/** What gives a text its form: its name, the keys that do the same while typing, and whether it is so at the cursor. */
export type TextTool = {
  name: string;
  keys?: string;
  icon: LucideIcon;
  run: () => void;
  on?: boolean;
  /** The key that does it together with Alt, as the keyboard names it: `KeyX`. */
  alt?: string;
};

type Making = { editor: Editor; pickFile: (() => void) | null; link: () => void };

/** What of the text at the cursor changes how the tools look. */
export const shownByTools = [
  'bold',
  'italic',
  'subscript',
  'superscript',
  'bulletList',
  'orderedList',
  'codeBlock',
  'link',
  'table',
];

/** The tools of a text. Those that no editor has a key for have one with Alt. */
export function textTools({ editor, pickFile, link }: Making): TextTool[] {
  const chain = () => editor.chain().focus();
  const is = (name: string) => editor.isActive(name);
  return [
    { name: 'Bold', keys: 'Ctrl+B', icon: Bold, run: () => chain().toggleBold().run(), on: is('bold') },
    { name: 'Italic', keys: 'Ctrl+I', icon: Italic, run: () => chain().toggleItalic().run(), on: is('italic') },
    {
      name: 'Subscript',
      keys: 'Ctrl+,',
      icon: Subscript,
      run: () => chain().toggleSubscript().run(),
      on: is('subscript'),
    },
    {
      name: 'Superscript',
      keys: 'Ctrl+.',
      icon: Superscript,
      run: () => chain().toggleSuperscript().run(),
      on: is('superscript'),
    },
    {
      name: 'List',
      keys: 'Ctrl+Shift+8',
      icon: List,
      run: () => chain().toggleBulletList().run(),
      on: is('bulletList'),
    },
    {
      name: 'Numbered list',
      keys: 'Ctrl+Shift+7',
      icon: ListOrdered,
      run: () => chain().toggleOrderedList().run(),
      on: is('orderedList'),
    },
    {
      name: 'Table',
      keys: 'Alt+T',
      alt: 'KeyT',
      icon: Table,
      run: () => chain().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run(),
    },
    { name: 'Code', keys: 'Ctrl+Alt+C', icon: Code, run: () => chain().toggleCodeBlock().run(), on: is('codeBlock') },
    {
      name: 'Formula',
      keys: 'Alt+X',
      alt: 'KeyX',
      icon: Sigma,
      // Its own field takes the focus.
      run: () =>
        editor
          .chain()
          .insertContent({ type: 'math', attrs: { tex: '', display: false } })
          .run(),
    },
    { name: 'Link', keys: 'Ctrl+K', icon: Link, run: link, on: is('link') },
    ...(pickFile
      ? [{ name: 'Picture, sound or video', keys: 'Alt+P', alt: 'KeyP', icon: ImagePlus, run: pickFile }]
      : []),
  ];
}

/** While the cursor stands in a table: its rows and columns. */
const tableTools = (editor: Editor): { name: string; shows: string; run: () => void }[] => {
  const chain = () => editor.chain().focus();
  return [
    { name: 'Row below', shows: '+ row', run: () => chain().addRowAfter().run() },
    { name: 'Column after', shows: '+ column', run: () => chain().addColumnAfter().run() },
    { name: 'Remove row', shows: '− row', run: () => chain().deleteRow().run() },
    { name: 'Remove column', shows: '− column', run: () => chain().deleteColumn().run() },
    { name: 'Remove table', shows: '− table', run: () => chain().deleteTable().run() },
  ];
};

type Props = {
  label: string;
  editor: Editor;
  tools: readonly TextTool[];
  variables: readonly Variable[];
  onGap: (() => void) | null;
  /** The focus went elsewhere than into the text. */
  onLeave: () => void;
};

/** The bar of tools. Alt+F10 leads into it from the text, the arrows walk in it, and Escape leads back. */
export function TextTools({ label, editor, tools, variables, onGap, onLeave }: Props) {
  const walk = (event: KeyboardEvent<HTMLElement>) => {
    if (event.key === 'Escape') {
      event.preventDefault();
      event.stopPropagation();
      editor.commands.focus();
      return;
    }
    const all = [...event.currentTarget.querySelectorAll<HTMLElement>('button, select')];
    const at = all.indexOf(event.target as HTMLElement);
    const next = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: all.length - 1 }[event.key];
    if (next === undefined || at < 0) return;
    event.preventDefault();
    all[(next + all.length) % all.length]?.focus();
  };
  const keepsFocus = { tabIndex: -1, onMouseDown: (event: React.MouseEvent) => event.preventDefault() };
  return (
    <div
      role="toolbar"
      aria-label={`Form of ${label.toLowerCase()}`}
      onKeyDown={walk}
      onBlur={({ currentTarget, relatedTarget }) => {
        if (currentTarget.contains(relatedTarget) || editor.view.dom.contains(relatedTarget)) return;
        onLeave();
      }}
      className="absolute right-1 z-10 flex max-w-full -translate-y-full flex-wrap border border-line bg-sheet shadow-sm"
    >
      {tools.map(({ name, keys, icon: Icon, run, on }) => (
        <button
          key={name}
          type="button"
          aria-label={name}
          aria-pressed={on ?? false}
          title={keys ? `${name} (${keys})` : name}
          {...keepsFocus}
          onClick={run}
          className={`p-1.5 ${on ? 'bg-prussian-wash text-prussian' : 'hover:bg-paper'}`}
        >
          <Icon size={15} />
        </button>
      ))}
      {editor.isActive('table') &&
        tableTools(editor).map(({ name, shows, run }) => (
          <button
            key={name}
            type="button"
            title={name}
            {...keepsFocus}
            onClick={run}
            className="px-1.5 text-sm hover:bg-paper"
          >
            <span aria-hidden="true">{shows}</span>
            <span className="sr-only">{name}</span>
          </button>
        ))}
      {onGap && (
        <button
          type="button"
          {...keepsFocus}
          title="Turn the selected words into a gap (Alt+G)"
          onClick={onGap}
          className="px-2 text-sm text-pine hover:bg-pine-wash"
        >
          Make a gap
        </button>
      )}
      {variables.length > 0 && (
        <select
          aria-label="Put in a value"
          tabIndex={-1}
          value=""
          onChange={(event) => {
            editor
              .chain()
              .focus()
              .insertContent({ type: 'variable', attrs: { id: event.target.value, decimals: null } })
              .run();
          }}
          className="bg-plum-wash px-1 text-sm text-plum"
        >
          <option value="">Put in a value</option>
          {variables.map((variable) => (
            <option key={variable.id} value={variable.id}>
              {variable.name}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}

'use client';
import { Bold, Italic, List, ListOrdered, Underline } from 'lucide-react';
import { useEffect, useId, useRef, useState } from 'react';
import { type Rich, readRichOrFault, richFaultSaid, richLimits, richText } from '@/core/base/rich';
import { fillWith, readFrom } from './formedDom';

type Props = {
  label: string;
  hint?: string;
  disabled?: boolean;
  value: Rich;
  onChange: (rich: Rich, plain: string) => void;
};

const tools = [
  ['bold', 'Bold', Bold],
  ['italic', 'Italic', Italic],
  ['underline', 'Underline', Underline],
  ['insertUnorderedList', 'List', List],
  ['insertOrderedList', 'Numbered list', ListOrdered],
] as const;

/**
 * A light field for an answer with a little form: the browser's own editing, read back into the rich-content format. It
 * stands in for the authors' editor, which is too heavy for an exam page.
 */
export function FormedText({ label, hint, disabled, value, onChange }: Props) {
  const id = useId();
  const field = useRef<HTMLDivElement>(null);
  const known = useRef('');
  const [refused, setRefused] = useState('');
  const latest = useRef(value);
  latest.current = value;

  useEffect(() => {
    const text = JSON.stringify(value);
    if (!field.current || text === known.current) return;
    known.current = text;
    fillWith(field.current, value);
  }, [value]);

  const read = () => {
    if (!field.current) return;
    const rich = readRichOrFault(readFrom(field.current));
    // What does not fit does not go in: the answer stays what it was, and it is said.
    setRefused(typeof rich === 'string' ? richFaultSaid(rich) : '');
    if (typeof rich === 'string') {
      fillWith(field.current, latest.current);
      getSelection()?.selectAllChildren(field.current);
      getSelection()?.collapseToEnd();
      return;
    }
    latest.current = rich;
    known.current = JSON.stringify(rich);
    onChange(rich, richText(rich));
  };
  return (
    <div>
      <div className="mb-1 flex items-end justify-between">
        <span id={`${id}-label`} className="text-sm font-medium">
          {label}
        </span>
        <div role="toolbar" aria-label="Form of the answer" className="flex border border-line bg-sheet">
          {tools.map(([command, name, Icon]) => (
            <button
              key={command}
              type="button"
              aria-label={name}
              title={name}
              disabled={disabled}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => {
                field.current?.focus();
                document.execCommand(command);
                read();
              }}
              className="p-2 hover:bg-prussian-wash"
            >
              <Icon size={16} aria-hidden="true" />
            </button>
          ))}
        </div>
      </div>
      {/* biome-ignore lint/a11y/useSemanticElements: a text area cannot hold form */}
      <div
        ref={field}
        role="textbox"
        tabIndex={0}
        aria-multiline="true"
        aria-labelledby={`${id}-label`}
        aria-describedby={hint ? `${id}-hint` : undefined}
        contentEditable={!disabled}
        suppressContentEditableWarning
        onInput={read}
        onPaste={(event) => {
          event.preventDefault();
          const pasted = event.clipboardData.getData('text/plain');
          // A text of megabytes would hold the page up for minutes before it is found not to fit.
          if (pasted.length > richLimits.characters) setRefused(richFaultSaid('too-long'));
          else document.execCommand('insertText', false, pasted);
        }}
        className="running-text min-h-56 rounded-sm border border-edge bg-sheet px-2.5 py-2"
      />
      {refused && (
        <p role="alert" className="mt-1 text-sm text-brick">
          {refused}
        </p>
      )}
      {hint && (
        <p id={`${id}-hint`} className="mt-1 text-sm text-ink-2">
          {hint}
        </p>
      )}
    </div>
  );
}

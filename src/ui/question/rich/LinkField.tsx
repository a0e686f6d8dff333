import type { Editor } from '@tiptap/react';
import { useState } from 'react';
import { isSafeLink } from '@/core/base/rich';
import { Button } from '../../kit/Button';
import { TextField } from '../../kit/Field';

type Props = { editor: Editor; onClose: () => void };

/** The address of the selected words, or of the link the cursor stands in; left empty, the link goes. */
export function LinkField({ editor, onClose }: Props) {
  const [address, setAddress] = useState(String(editor.getAttributes('link').href ?? ''));
  const [problem, setProblem] = useState<string | null>(null);
  const close = () => {
    onClose();
    editor.commands.focus();
  };
  const set = () => {
    const href = address.trim();
    if (href !== '' && !isSafeLink(href))
      return setProblem('An address begins with https://, http:// or mailto:, and has no spaces.');
    const chain = editor.chain().focus().extendMarkRange('link');
    if (href === '') chain.unsetLink().run();
    else if (editor.state.selection.empty && !editor.isActive('link'))
      chain.insertContent({ type: 'text', text: href, marks: [{ type: 'link', attrs: { href } }] }).run();
    else chain.setLink({ href }).run();
    onClose();
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keys are those of the field inside
    <div
      className="absolute top-full right-1 z-20 flex w-80 max-w-full items-end gap-2 border border-line bg-sheet p-2 shadow-md"
      onKeyDown={(event) => {
        if (event.key === 'Enter') set();
        else if (event.key === 'Escape') close();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <TextField
        label="Address of the link"
        className="flex-1"
        autoFocus
        placeholder="https://"
        value={address}
        onChange={(event) => {
          setAddress(event.target.value);
          setProblem(null);
        }}
        problem={problem}
      />
      <Button onClick={set}>Set</Button>
    </div>
  );
}

// @vitest-environment jsdom
import { Editor } from '@tiptap/core';
import StarterKit from '@tiptap/starter-kit';
import { expect, it } from 'vitest';
import { type RichFault, richLimits } from '@/core/base/rich';
import { keepable, readDoc } from './keepable';

function editorWith(content: string) {
  const told: (RichFault | null)[] = [];
  const editor = new Editor({
    // A heading is known to this editor, and not to the format.
    extensions: [StarterKit, keepable((fault) => told.push(fault))],
    content,
  });
  return { editor, told };
}

it('what would not fit does not go in, it is said why, and the text goes on being kept', () => {
  const { editor, told } = editorWith('<p>Begun</p>');
  editor.commands.insertContentAt(6, ` ${'x'.repeat(richLimits.characters)}`);
  expect(editor.getText()).toBe('Begun');
  expect(told.at(-1)).toBe('too-long');
  editor.commands.insertContentAt(6, ' and gone on');
  expect(editor.getText()).toBe('Begun and gone on');
  expect(told.at(-1)).toBeNull();
  expect(readDoc(editor.getJSON())).toMatchObject({ type: 'doc' });
});

it('what the format does not know does not go in either', () => {
  const { editor, told } = editorWith('<p>Begun</p>');
  editor.commands.insertContent('<h1>A heading</h1>');
  expect(editor.getText()).toBe('Begun');
  expect(told.at(-1)).toBe('unknown');
});

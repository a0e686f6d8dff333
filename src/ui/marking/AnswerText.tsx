'use client';
import { StickyNote } from 'lucide-react';
import { useRef, useState } from 'react';
import { shortened } from '@/core/base/words';
import { notedPieces, type PassageNote } from '@/core/marking/marks';
import type { AnswerBody } from '@/server/marking/answerBodies';
import { Button, RemoveButton } from '../kit/Button';
import { TextField } from '../kit/Field';
import { RichText } from '../kit/RichText';
import { TextButton } from '../kit/TextButton';

type Passage = { from: number; to: number };

/** The letters of an element that lie before a place in it. */
function lettersBefore(element: Element, node: Node, offset: number): number {
  const range = document.createRange();
  range.setStart(element, 0);
  range.setEnd(node, offset);
  return range.toString().length;
}

/** The passage that is selected in an answer, in letters of its words; null where none is. */
function selectedIn(element: Element | null, text: string): Passage | null {
  const selection = window.getSelection();
  if (!element || !selection || selection.rangeCount === 0 || selection.isCollapsed) return null;
  const range = selection.getRangeAt(0);
  if (!element.contains(range.startContainer) || !element.contains(range.endContainer)) return null;
  if (element.textContent === text) {
    const from = lettersBefore(element, range.startContainer, range.startOffset);
    const to = lettersBefore(element, range.endContainer, range.endOffset);
    return from < to ? { from, to } : null;
  }
  // An answer with form: its words are found again in the plain text.
  const words = range.toString().trim();
  const from = words ? text.indexOf(words) : -1;
  return from >= 0 ? { from, to: from + words.length } : null;
}

const quoted = (text: string, { from, to }: Passage) => {
  const passage = text.slice(from, to).replace(/\s+/g, ' ').trim();
  return shortened(passage, 60);
};

/**
 * An answer, with notes on passages of it. Its words can be walked and selected by keyboard as in a text field, and take no
 * typing.
 */
export function AnswerText({
  body,
  notes,
  onNotes,
}: {
  body: AnswerBody;
  notes: readonly PassageNote[];
  onNotes: (notes: PassageNote[]) => void;
}) {
  const words = useRef<HTMLDivElement>(null);
  const [passage, setPassage] = useState<Passage | null>(null);
  const [text, setText] = useState('');
  const [hint, setHint] = useState('');
  const begin = () => {
    const selected = selectedIn(words.current, body.text);
    setHint(selected ? '' : 'Select a passage of the answer first, by mouse or with Shift and the arrow keys.');
    setPassage(selected);
    if (!selected) words.current?.focus();
  };
  const add = () => {
    if (!passage || !text.trim()) return;
    onNotes([...notes, { ...passage, text: text.trim() }].sort((a, b) => a.from - b.from || a.to - b.to));
    setPassage(null);
    setText('');
    words.current?.focus();
  };
  const empty = body.whose === null ? 'No words, only what was handed in.' : 'This answer stands on paper.';
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: a text field cannot show form and notes within its words */}
      <div
        ref={words}
        role="textbox"
        aria-readonly="true"
        aria-multiline="true"
        aria-label="The answer"
        tabIndex={0}
        contentEditable
        suppressContentEditableWarning
        spellCheck={false}
        onBeforeInput={(event) => event.preventDefault()}
        onPaste={(event) => event.preventDefault()}
        onDrop={(event) => event.preventDefault()}
        onCut={(event) => event.preventDefault()}
        onKeyDown={(event) => {
          if (event.altKey && event.key.toLowerCase() === 'n') {
            event.preventDefault();
            begin();
          } else if (['Backspace', 'Delete', 'Enter'].includes(event.key)) event.preventDefault();
        }}
        className="max-h-96 min-h-24 overflow-y-auto px-5 py-4 font-serif text-lg"
      >
        {body.rich ? (
          <RichText rich={body.rich} />
        ) : body.text ? (
          <p className="whitespace-pre-wrap">
            {notedPieces(body.text, notes).map((piece, i) =>
              piece.notes.length ? (
                <mark
                  // biome-ignore lint/suspicious/noArrayIndexKey: pieces have no other name than their place
                  key={i}
                  data-notes={piece.notes.map((n) => n + 1).join(' ')}
                  className="bg-saffron-wash text-ink underline decoration-saffron after:ml-0.5 after:align-super after:text-xs after:text-saffron after:content-[attr(data-notes)]"
                >
                  {piece.text}
                </mark>
              ) : (
                piece.text
              ),
            )}
          </p>
        ) : (
          <p className="text-ink-2">{empty}</p>
        )}
      </div>
      {(body.text || notes.length > 0) && (
        <div className="border-t border-line px-5 py-2 text-sm">
          {notes.length > 0 && (
            <ol aria-label="Notes on passages" className="mb-1">
              {notes.map((note, n) => (
                <li key={`${note.from}/${note.to}/${note.text}`} className="flex items-center gap-2">
                  <span className="text-saffron tabular-nums">{n + 1}</span>
                  <span className="min-w-0 flex-1">
                    <q className="font-serif text-ink-2">{quoted(body.text, note)}</q> {note.text}
                  </span>
                  <RemoveButton
                    label={`Take away note ${n + 1}`}
                    className="-my-2"
                    onClick={() => onNotes(notes.filter((one) => one !== note))}
                  />
                </li>
              ))}
            </ol>
          )}
          {passage ? (
            <form
              className="flex items-end gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                add();
              }}
            >
              <TextField
                label={`On “${quoted(body.text, passage)}”`}
                className="min-w-0 flex-1"
                autoFocus
                value={text}
                onChange={(event) => setText(event.target.value)}
                onKeyDown={(event) => {
                  event.stopPropagation();
                  if (event.key === 'Escape') setPassage(null);
                }}
              />
              <Button type="submit">Put the note there</Button>
              <Button look="quiet" onClick={() => setPassage(null)}>
                Never mind
              </Button>
            </form>
          ) : (
            <p className="flex flex-wrap items-center gap-2">
              <TextButton
                // The selection must outlive the press.
                onMouseDown={(event) => event.preventDefault()}
                onClick={begin}
                className="inline-flex items-center gap-1"
              >
                <StickyNote size={14} aria-hidden="true" /> Note on the selected passage
              </TextButton>
              <span className="text-ink-2">Alt+N in the answer</span>
              <span role="status" className="text-saffron">
                {hint}
              </span>
            </p>
          )}
        </div>
      )}
    </>
  );
}

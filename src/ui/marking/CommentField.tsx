'use client';
import { useRef, useState } from 'react';
import type { SavedComment } from '@/server/marking/savedComments';
import { RemoveButton } from '../kit/Button';
import { TextArea } from '../kit/Field';
import { TextButton } from '../kit/TextButton';

/** At most so many kept comments are offered: as many as there are keys for. */
const offered = 5;

/** The letters of the last word that is being typed. */
const lastWord = (text: string): string =>
  text
    .slice(-80)
    .split(/[^\p{L}\p{N}]/u)
    .at(-1) ?? '';

/**
 * Kept comments that fit what is being typed: those that hold a word which begins with the letters typed last; all of
 * them, those used most first, while nothing is typed.
 */
export function fitting(comments: readonly SavedComment[], typed: string): SavedComment[] {
  const letters = lastWord(typed).toLocaleLowerCase();
  if (typed.trim() !== '' && letters.length < 2) return [];
  const begins = (text: string) =>
    (text.toLocaleLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []).some((word) => word.startsWith(letters));
  return comments.filter((one) => !typed.includes(one.text) && begins(one.text)).slice(0, offered);
}

type Props = {
  reader: CommentReader;
  value: string;
  problem: string | null;
  comments: readonly SavedComment[];
  onChange: (text: string, used?: string) => void;
  /** Absent where comments cannot be kept. */
  onKeep?: (text: string) => void;
  onDrop: (commentId: string) => void;
};

/** Who reads a comment: the student, nobody while the release plan hides it, or whoever settles two marks that differ. */
export type CommentReader = 'student' | 'hidden' | 'settling';

/** The comment for the student. A few letters find a kept one; Alt and its number put it in. */
export function CommentField({ reader, value, problem, comments, onChange, onKeep, onDrop }: Props) {
  const field = useRef<HTMLDivElement>(null);
  const [all, setAll] = useState(false);
  const fit = all ? comments : fitting(comments, value);
  const put = (one: SavedComment) => {
    const letters = lastWord(value);
    const before = value.slice(0, value.length - letters.length);
    const joined = letters.length >= 2 ? before : value;
    onChange(joined.trim() === '' ? one.text : `${joined.trimEnd()} ${one.text}`, one.id);
    field.current?.querySelector('textarea')?.focus();
  };
  const kept = comments.some((one) => one.text === value.trim());
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keys of the kept comments work in the field and its list
    <div
      ref={field}
      className="min-w-0"
      onKeyDown={(event) => {
        const n = event.altKey ? Number(/^Digit([1-9])$/.exec(event.code)?.[1]) : Number.NaN;
        const one = fit[n - 1];
        if (!one) return;
        event.preventDefault();
        event.stopPropagation();
        put(one);
      }}
    >
      <TextArea
        label={`${reader === 'settling' ? 'Note for settling' : 'Comment for the student'} (Ctrl+Enter saves)`}
        hint={reader === 'hidden' ? 'By the release plan of this sitting students see no comments.' : undefined}
        rows={3}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        problem={problem}
      />
      {fit.length > 0 && (
        <ul aria-label="Kept comments" className="mt-1 border border-line text-sm">
          {fit.map((one, i) => (
            <li key={one.id} className="flex items-baseline gap-2 border-b border-line px-2 last:border-b-0">
              <button
                type="button"
                onClick={() => put(one)}
                className="min-w-0 flex-1 truncate py-0.5 text-left hover:underline"
              >
                {one.text}
              </button>
              <span className="whitespace-nowrap text-ink-2">
                {i < offered && `Alt+${i + 1}`}
                {one.used > 0 && ` · used ${one.used}×`}
              </span>
              {all && <RemoveButton label={`Drop “${one.text}”`} className="-my-2" onClick={() => onDrop(one.id)} />}
            </li>
          ))}
        </ul>
      )}
      <p className="mt-1 flex gap-3 text-sm">
        {onKeep && value.trim() !== '' && !kept && (
          <TextButton onClick={() => onKeep(value)}>Keep this comment for other answers</TextButton>
        )}
        {comments.length > 0 && (
          <TextButton onClick={() => setAll(!all)}>
            {all ? 'Fewer' : `All kept comments (${comments.length})`}
          </TextButton>
        )}
      </p>
    </div>
  );
}

'use client';
import { type FormEvent, type KeyboardEvent, useEffect, useId, useLayoutEffect, useRef, useState } from 'react';
import { counted, pointsSaid } from '@/core/base/words';
import type { DrawLine, PassageLine } from '@/core/exam/design';
import { completeDraw, type DrawOption, type ReadDraw, readDraw, type UsualDraw } from '@/core/exam/readDraw';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { inputShape } from '../kit/Field';
import { poolSaid, type Sources } from './PoolPieces';

/** What counts the pool of a draw on the server. */
export type CountPool = Commands<'countPool', 'courseId' | 'examId'>;

type Props = {
  sources: Sources;
  /** What the part's last draw took: the sentence need not say it again. */
  usual: UsualDraw;
  makeId: () => string;
  whyNot: string | null;
  /** Whether the cursor stands in it at once: where an exam has no lines yet, it is what comes next. */
  begins?: boolean;
  /** Null where nothing was typed: a draw like the last one. */
  onAdd: (line: DrawLine | PassageLine | null) => void;
} & CountPool;

const pauseBeforeCounting = 150;

const kindSaid: Record<DrawOption['kind'], string> = {
  category: 'category',
  exam: 'questions of an exam',
  objective: 'objective',
  tag: 'tag',
  difficulty: 'difficulty',
  type: 'type',
};

/**
 * A draw typed as one sentence, "3 heights medium 2p": below it stands what it was read as, and how many questions its
 * pool holds. What a word can become is offered while it is typed.
 */
export function TypeDraw({ sources, usual, makeId, whyNot, begins, onAdd, countPool }: Props) {
  const [text, setText] = useState('');
  const [caret, setCaret] = useState(0);
  const [active, setActive] = useState(-1);
  const [closed, setClosed] = useState(false);
  const [added, setAdded] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const behindTaken = useRef<number | null>(null);
  const id = useId();
  // Once React has written the value, the caret stands behind what was taken, not at the end; before the next key.
  useLayoutEffect(() => {
    if (behindTaken.current === null) return;
    field.current?.setSelectionRange(behindTaken.current, behindTaken.current);
    behindTaken.current = null;
  });
  const read = readDraw(text, sources, usual);
  const offered = closed || text === '' ? null : completeDraw(text, caret, sources);
  const options = offered?.options ?? [];
  const holds = useHolds(read.line, countPool);
  const isOpen = options.length > 0;

  const type = (next: string, at: number) => {
    setText(next);
    setCaret(at);
    setActive(-1);
    setClosed(false);
    setAdded('');
  };
  const take = (option: DrawOption) => {
    if (!offered) return;
    const before = `${text.slice(0, offered.from)}${option.says} `;
    const next = before + text.slice(offered.to).trimStart();
    type(next, before.length);
    behindTaken.current = before.length;
    field.current?.focus();
  };
  const press = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by && isOpen) {
      event.preventDefault();
      setActive((active + by + options.length + (active < 0 && by < 0 ? 1 : 0)) % options.length);
    } else if (event.key === 'Escape' && isOpen) {
      event.preventDefault();
      setClosed(true);
    }
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const chosen = options[active];
    if (chosen) return take(chosen);
    if (text.trim() === '') return onAdd(null);
    if (!read.line) {
      if (options[0]) take(options[0]);
      return;
    }
    onAdd({ ...read.line, id: makeId() });
    type('', 0);
    setAdded(`Added: ${drawSaid(read.line, sources)}.`);
  };
  return (
    <form onSubmit={submit} className="border-b border-line px-3 py-2">
      <div className="flex flex-wrap items-start gap-2">
        <div className="relative min-w-56 flex-1">
          <input
            ref={field}
            // biome-ignore lint/a11y/noAutofocus: it is what comes next on an exam that was just begun
            autoFocus={begins}
            role="combobox"
            aria-label="Type a draw"
            aria-expanded={isOpen}
            aria-controls={isOpen ? `${id}-options` : undefined}
            aria-activedescendant={active >= 0 ? `${id}-${active}` : undefined}
            aria-describedby={`${id}-read`}
            aria-autocomplete="list"
            autoComplete="off"
            spellCheck={false}
            placeholder="Type a draw, such as: 3 heights medium 2p"
            value={text}
            disabled={whyNot !== null}
            onChange={(event) => type(event.target.value, event.target.selectionStart ?? event.target.value.length)}
            onSelect={(event) => setCaret(event.currentTarget.selectionStart ?? text.length)}
            onKeyDown={press}
            onBlur={() => setClosed(true)}
            className={inputShape}
          />
          {isOpen && (
            <div
              id={`${id}-options`}
              role="listbox"
              aria-label="What it can become"
              className="absolute inset-x-0 top-full z-20 mt-0.5 max-h-72 overflow-y-auto border border-edge bg-sheet shadow-md"
            >
              {options.map((option, i) => (
                // biome-ignore lint/a11y/useKeyWithClickEvents: the keys are those of the field, which keeps the focus
                <div
                  key={`${option.kind}${option.value}`}
                  id={`${id}-${i}`}
                  role="option"
                  tabIndex={-1}
                  aria-selected={i === active}
                  onMouseDown={(event) => event.preventDefault()}
                  onClick={() => take(option)}
                  className={`flex min-h-8 items-baseline gap-3 px-2.5 py-1 ${i === active ? 'bg-prussian-wash' : 'hover:bg-paper'}`}
                >
                  <span className="min-w-0 flex-1">{option.says}</span>
                  <span className="text-sm text-ink-2">{kindSaid[option.kind]}</span>
                </div>
              ))}
            </div>
          )}
        </div>
        <Button type="submit" look="quiet" whyNot={whyNot}>
          Add a draw
        </Button>
      </div>
      <p id={`${id}-read`} className="mt-1 text-sm empty:hidden">
        {text.trim() !== '' && <Read read={read} holds={holds} sources={sources} />}
      </p>
      <p role="status" className="text-sm text-ink-2 empty:hidden">
        {added}
      </p>
    </form>
  );
}

/** "Draw 3 from Tides › Heights, medium, 2 points each". */
const drawSaid = (line: NonNullable<ReadDraw['line']>, sources: Sources): string =>
  `Draw ${line.kind === 'passage' ? `${counted(line.count, 'passage')} with ${counted(line.questions, 'question')} each` : line.count} from ${poolSaid(line.pool, sources)}, ${pointsSaid(line.points)} each`;

function Read({ read, holds, sources }: { read: ReadDraw; holds: number | null; sources: Sources }) {
  if (!read.line) return <span className="text-brick">{read.problems.join(' ')}</span>;
  const isShort = holds !== null && holds < read.line.count;
  return (
    <>
      <span className="text-ink">{drawSaid(read.line, sources)}</span>
      <span className={`tabular-nums ${isShort ? 'text-brick' : 'text-ink-2'}`}>
        {holds === null
          ? ' · counting the pool …'
          : ` · ${isShort ? 'only ' : ''}${holds === 0 ? 'none' : holds}${read.line.kind === 'passage' ? ' such' : ''} in the pool`}
        {' · Enter adds it'}
      </span>
    </>
  );
}

/** How many the pool of a typed draw holds; null until it is known. Of several answers the one to what stands there counts. */
function useHolds(line: ReadDraw['line'], countPool: CountPool['countPool']): number | null {
  const key = line ? JSON.stringify([line.kind, line.pool, line.kind === 'passage' ? line.questions : null]) : '';
  const [known, setKnown] = useState<{ key: string; holds: number } | null>(null);
  const asked = useRef({ line, countPool });
  asked.current = { line, countPool };
  useEffect(() => {
    if (key === '') return;
    let gone = false;
    const timer = setTimeout(() => {
      const { line, countPool } = asked.current;
      if (!line) return;
      void countPool({ ...line, id: 'typed' })
        .then((answer) => !gone && answer.ok && setKnown({ key, holds: answer.value.holds }))
        .catch(() => undefined);
    }, pauseBeforeCounting);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [key]);
  return known?.key === key ? known.holds : null;
}

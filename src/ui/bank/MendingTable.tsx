'use client';
import { type KeyboardEvent, useId, useState } from 'react';
import { type Block, blocksOf } from '@/core/bank/bringIn/blocks';
import { lineText } from '@/core/bank/bringIn/line';
import { type LineRole, type ReadLine, type SaidRole, saidRoles } from '@/core/bank/bringIn/lineForms';
import { counted } from '@/core/base/words';
import type { Preview } from '@/server/bringIn/preview';
import { Button } from '../kit/Button';
import { PageTurner } from '../kit/PageTurner';
import { TextButton } from '../kit/TextButton';
import { BroughtQuestion } from './BroughtQuestion';
import type { BringingIn } from './useBringIn';

const roleNames: Record<LineRole, string> = {
  question: 'question',
  choice: 'choice',
  right: 'right choice',
  key: 'key',
  feedback: 'feedback',
  more: 'goes on',
  nothing: 'nothing',
  note: 'note',
  keys: 'list of keys',
  unread: 'not read',
  blank: '',
};

const sayings: Record<SaidRole, { says: string; key: string }> = {
  question: { says: 'question', key: 'q' },
  choice: { says: 'choice', key: 'c' },
  right: { says: 'right choice', key: 'r' },
  key: { says: 'key', key: 'k' },
  feedback: { says: 'feedback', key: 'f' },
  more: { says: 'goes on', key: 'g' },
  nothing: { says: 'nothing', key: 'n' },
};

const roleLook: Partial<Record<LineRole, string>> = {
  question: 'text-prussian',
  right: 'text-pine',
  key: 'text-pine',
  keys: 'text-pine',
  unread: 'bg-saffron-wash text-saffron font-medium px-1',
};

/** So many blocks stand on one page of the table. */
const perPage = 60;

type Shown = 'all' | 'looks';
type Props = { bringing: BringingIn; preview: Preview; text: NonNullable<Preview['text']> };

/**
 * A text as it was pasted at the left, and at the right what each of its lines became. What was not read is coloured and
 * says so; one press says what a line is.
 */
export function MendingTable({ bringing, preview, text }: Props) {
  const blocks = blocksOf(text.roles);
  const needs = blocks.filter((block) => needsLook(block, preview));
  const [shown, setShown] = useState<Shown>('all');
  const [page, setPage] = useState(0);
  const list = shown === 'looks' && needs.length > 0 ? needs : blocks;
  const pages = Math.max(1, Math.ceil(list.length / perPage));
  const at = Math.min(page, pages - 1);
  const taught = Object.entries(preview.taught);
  return (
    <div className="mt-3">
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1 text-sm">
        {needs.length > 0 && needs.length < blocks.length ? (
          <p>
            <TextButton
              onClick={() => {
                setShown(shown === 'all' ? 'looks' : 'all');
                setPage(0);
              }}
            >
              {shown === 'all' ? `Only what needs you (${needs.length})` : `All of it (${blocks.length})`}
            </TextButton>
          </p>
        ) : (
          <span />
        )}
        <p className="hidden text-ink-2 lg:block">
          With a line chosen, a key says what it is:{' '}
          {saidRoles.map((role, i) => (
            <span key={role}>
              {i > 0 && ', '}
              <kbd className="font-mono">{sayings[role].key}</kbd> {sayings[role].says}
            </span>
          ))}
        </p>
      </div>
      {taught.length > 0 && (
        <details className="mt-1 text-sm">
          <summary className="text-prussian">{counted(taught.length, 'thing')} learnt from your corrections</summary>
          <ul className="mt-1 space-y-0.5 pl-5">
            {taught.map(([form, role]) => (
              <li key={form}>
                {formSaid(form)}: {sayings[role].says}{' '}
                <TextButton aria-label={`Forget: ${formSaid(form)}`} onClick={() => bringing.forget([form])}>
                  forget it
                </TextButton>
              </li>
            ))}
          </ul>
        </details>
      )}
      <div
        className="mt-2 hidden gap-4 text-sm font-medium text-ink-2 lg:grid lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]"
        aria-hidden="true"
      >
        <span>Your text</span>
        <span>What it becomes</span>
      </div>
      <ol aria-label="Your text, and what it becomes">
        {list.slice(at * perPage, (at + 1) * perPage).map((block) => (
          <MendingBlock key={`${block.from}`} block={block} bringing={bringing} preview={preview} text={text} />
        ))}
      </ol>
      <PageTurner count={list.length} perPage={perPage} page={at} onTurn={setPage} />
    </div>
  );
}

const needsLook = (block: Block, preview: Preview): boolean => {
  if (block.kind === 'unread') return true;
  const state = block.item === null ? null : preview.items[block.item]?.state;
  return state === 'ask' || state === 'unreadable';
};

/** A form of lines in words. */
function formSaid(form: string): string {
  const [kind, ...rest] = form.split('/');
  const what = rest.join('/');
  if (kind === 'word') return `Lines that begin with “${what}:”`;
  if (kind === 'marker') return `Lines that begin with ${what.replace('#', '1')}`;
  if (kind === 'plain') return 'Plain lines that end with a question mark or colon';
  return `The line “${what}”`;
}

type BlockProps = Props & { block: Block };

function MendingBlock({ block, bringing, preview, text }: BlockProps) {
  const [editing, setEditing] = useState<string | null>(null);
  const field = useId();
  const lines = text.lines.slice(block.from, block.to + 1);
  const item = block.item === null ? null : (preview.items[block.item] ?? null);
  const isOne = lines.filter((line) => lineText(line).trim() !== '').length === 1;
  return (
    <li
      className={`grid gap-x-4 gap-y-2 border-t border-line py-2 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)] ${block.kind === 'unread' ? 'bg-saffron-wash/60' : ''}`}
    >
      <div className="min-w-0">
        {editing === null ? (
          <ol>
            {lines.slice(0, 200).map((line, i) => (
              <MendingLine
                // biome-ignore lint/suspicious/noArrayIndexKey: lines stand by their place
                key={i}
                place={block.from + i}
                said={lineText(line)}
                role={text.roles[block.from + i] as ReadLine}
                onSay={(role) => bringing.say(block.from + i, role)}
              />
            ))}
            {lines.length > 200 && <li className="text-sm text-ink-2">… and {lines.length - 200} more lines</li>}
          </ol>
        ) : (
          <div>
            <label htmlFor={field} className="sr-only">
              The lines, to be written anew
            </label>
            <textarea
              id={field}
              rows={Math.min(20, lines.length + 1)}
              value={editing}
              onChange={(event) => setEditing(event.target.value)}
              className="w-full rounded-sm border border-edge bg-sheet px-2 py-1"
            />
            <Button
              onClick={() => {
                bringing.rewrite(block.from, block.to, editing);
                setEditing(null);
              }}
            >
              Read it again
            </Button>{' '}
            <Button look="quiet" onClick={() => setEditing(null)}>
              Leave it
            </Button>
          </div>
        )}
        {editing === null && (
          <TextButton className="ml-10 text-sm" onClick={() => setEditing(lines.map(lineText).join('\n').trimEnd())}>
            Change the text
          </TextButton>
        )}
      </div>
      <div className="min-w-0">
        {item && block.item !== null ? (
          <BroughtQuestion
            item={item}
            isTaken={bringing.isTaken(block.item)}
            onToggle={() => bringing.toggle(block.item as number)}
          />
        ) : (
          <div className={block.kind === 'unread' ? 'text-saffron' : 'text-ink-2'}>
            {block.kind === 'unread'
              ? isOne
                ? 'This line was not read, and stays in your text. Say what it is.'
                : 'These lines were not read, and stay in your text. Say what they are.'
              : block.kind === 'keys'
                ? 'A list of keys, which are at their questions.'
                : 'Left out, as you said.'}
            {block.kind === 'unread' && !isOne && (
              <p className="mt-1">
                <TextButton onClick={() => bringing.sayAll(block.from, block.to, 'nothing')}>
                  All of them are nothing
                </TextButton>
              </p>
            )}
          </div>
        )}
      </div>
    </li>
  );
}

type LineProps = { place: number; said: string; role: ReadLine; onSay: (role: SaidRole) => void };

function MendingLine({ place, said, role, onSay }: LineProps) {
  const [open, setOpen] = useState(false);
  if (role.role === 'blank') return <li className="h-2" />;
  const press = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const known = saidRoles.find((one) => sayings[one].key === event.key.toLowerCase());
    if (!known) return;
    event.preventDefault();
    onSay(known);
  };
  const isOpen = open || role.role === 'unread';
  return (
    <li>
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!open)}
        onKeyDown={press}
        className="grid w-full grid-cols-[2rem_6rem_minmax(0,1fr)] gap-x-2 rounded-sm text-left hover:bg-prussian-wash"
      >
        <span className="text-right text-sm text-ink-2 tabular-nums">{place + 1}</span>
        <span className={`justify-self-start text-sm ${roleLook[role.role] ?? 'text-ink-2'}`}>
          {roleNames[role.role]}
          {role.said && <span title="as you said"> ·</span>}
        </span>
        <span className="min-w-0 break-words whitespace-pre-wrap" dir="auto">
          {said.trim().slice(0, 600)}
        </span>
      </button>
      {isOpen && (
        <span className="mb-1 ml-10 flex flex-wrap gap-1">
          {saidRoles.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={role.said && role.role === one}
              aria-label={`Line ${place + 1} is: ${sayings[one].says}`}
              onClick={() => {
                onSay(one);
                setOpen(false);
              }}
              className="min-h-6 rounded-sm border border-edge bg-sheet px-1.5 text-sm hover:bg-prussian-wash aria-pressed:bg-prussian-wash"
            >
              {sayings[one].says}
            </button>
          ))}
        </span>
      )}
    </li>
  );
}

'use client';
import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp, FolderPlus, Merge, Pencil, Plus, Trash2 } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import type { CategoryNode } from '@/core/bank/categoryTree';
import { counted } from '@/core/base/words';
import { Button } from '../kit/Button';
import { Decision } from '../kit/Decision';
import { TextField } from '../kit/Field';
import { CategoryField } from './CategoryField';

type Props = {
  categories: CategoryNode[];
  openCategory: string;
  busy: boolean;
  onAdd: (name: string, parentId: string | null) => Promise<unknown>;
  onName: (name: string) => Promise<unknown>;
  onMove: (target: { parentId: string | null; place: number }) => Promise<unknown>;
  onDrop: () => Promise<unknown>;
  /** Deletes it after moving all it holds into another: also the way to merge two. */
  onEmpty: (targetId: string) => Promise<unknown>;
};

/** What can be done with the open category: name, place in the tree, a category below it, deletion while empty. */
export function CategoryTools({ categories, openCategory, busy, onAdd, onName, onMove, onDrop, onEmpty }: Props) {
  const [naming, setNaming] = useState<{ as: 'rename' | 'below' | 'beside'; text: string } | null>(null);
  const [into, setInto] = useState<string | null>(null);
  const node = categories.find((one) => one.id === openCategory) as CategoryNode;
  const beside = categories.filter((one) => one.parentId === node.parentId);
  const place = beside.findIndex((one) => one.id === node.id);
  const above = beside[place - 1];
  const parent = categories.find((one) => one.id === node.parentId);
  const parentPlace = parent
    ? categories.filter((one) => one.parentId === parent.parentId).findIndex((one) => one.id === parent.id)
    : -1;

  const below = categories.filter((one) => one.parentId === node.id).length;
  const holds = node.below > 0 || below > 0;
  const inside = new Set([node.id]);
  for (const one of categories) if (one.parentId && inside.has(one.parentId)) inside.add(one.id);
  const others = categories.filter((one) => !inside.has(one.id));

  const submit = async () => {
    if (!naming) return;
    const done =
      naming.as === 'rename'
        ? await onName(naming.text)
        : await onAdd(naming.text, naming.as === 'below' ? node.id : node.parentId);
    if (done) setNaming(null);
  };
  if (naming)
    return (
      <NameForm
        label={
          naming.as === 'rename'
            ? `New name of ${node.name}`
            : naming.as === 'below'
              ? `New category below ${node.name}`
              : `New category beside ${node.name}`
        }
        act={naming.as === 'rename' ? 'Rename' : 'Add'}
        busy={busy}
        text={naming.text}
        onType={(text) => setNaming({ ...naming, text })}
        onSubmit={() => void submit()}
        onCancel={() => setNaming(null)}
      />
    );
  const tool = (name: string, icon: ReactNode, run: () => void, whyNot: string | null = null) => (
    <button
      type="button"
      aria-label={name}
      title={whyNot ?? name}
      aria-disabled={whyNot ? true : undefined}
      disabled={busy}
      onClick={whyNot ? undefined : run}
      className={`p-2 hover:bg-prussian-wash ${whyNot ? 'opacity-35' : ''}`}
    >
      {icon}
    </button>
  );
  return (
    <div
      role="toolbar"
      aria-label={`Category ${node.name}`}
      className="flex items-center border-b border-line px-1 text-ink-2"
    >
      <span className="min-w-0 flex-1 truncate px-2 text-sm">{node.name}</span>
      {tool('Rename', <Pencil size={15} />, () => setNaming({ as: 'rename', text: node.name }))}
      {tool('New category below this one', <FolderPlus size={15} />, () => setNaming({ as: 'below', text: '' }))}
      {tool('New category beside this one', <Plus size={15} />, () => setNaming({ as: 'beside', text: '' }))}
      {tool(
        'Move up',
        <ArrowUp size={15} />,
        () => void onMove({ parentId: node.parentId, place: place - 1 }),
        place === 0 ? 'It is the first here.' : null,
      )}
      {tool(
        'Move down',
        <ArrowDown size={15} />,
        () => void onMove({ parentId: node.parentId, place: place + 1 }),
        place === beside.length - 1 ? 'It is the last here.' : null,
      )}
      {tool(
        'Move out, beside the category that holds it',
        <ArrowLeft size={15} />,
        () => void onMove({ parentId: parent?.parentId ?? null, place: parentPlace + 1 }),
        parent ? null : 'It is at the top already.',
      )}
      {tool(
        'Move into the category above',
        <ArrowRight size={15} />,
        () => void onMove({ parentId: above?.id ?? null, place: Number.MAX_SAFE_INTEGER }),
        above ? null : 'There is no category above it to move into.',
      )}
      {tool(
        'Merge into another category',
        <Merge size={15} />,
        () => setInto(others[0]?.id ?? null),
        others.length === 0 ? 'There is no other category.' : null,
      )}
      {tool(
        'Delete this category',
        <Trash2 size={15} />,
        () => (holds ? setInto(others[0]?.id ?? null) : void onDrop()),
        holds && others.length === 0 ? 'There is no other category to move its contents to.' : null,
      )}
      {into !== null && (
        <Decision
          title={`Move what ${node.name} holds, and delete it`}
          act="Move and delete"
          busy={busy}
          onAct={() => void onEmpty(into).then(() => setInto(null))}
          onClose={() => setInto(null)}
        >
          <p>
            {counted(node.own, 'question')} of its own
            {below > 0 && ` and ${counted(below, 'category', 'categories')} below it`} go into the category chosen here.
            Draws of exams that name {node.name} lose it; their plan check says so. It can be undone.
          </p>
          <CategoryField label="Into" categories={categories} among={others} value={into} onPick={setInto} />
        </Decision>
      )}
    </div>
  );
}

/** While no category is open: the way to a new one at the top of the tree. */
export function NewCategory({ busy, onAdd }: { busy: boolean; onAdd: (name: string) => Promise<unknown> }) {
  const [text, setText] = useState<string | null>(null);
  if (text === null)
    return (
      <div className="border-b border-line px-1">
        <Button look="quiet" onClick={() => setText('')}>
          <FolderPlus size={15} aria-hidden="true" /> New category
        </Button>
      </div>
    );
  return (
    <NameForm
      label="New category"
      act="Add"
      busy={busy}
      text={text}
      onType={setText}
      onSubmit={() => void onAdd(text).then((done) => done && setText(null))}
      onCancel={() => setText(null)}
    />
  );
}

type NameProps = {
  label: string;
  act: string;
  busy: boolean;
  text: string;
  onType: (text: string) => void;
  onSubmit: () => void;
  onCancel: () => void;
};

const NameForm = ({ label, act, busy, text, onType, onSubmit, onCancel }: NameProps) => (
  <form
    className="flex items-end gap-2 border-b border-line p-2"
    onSubmit={(event) => {
      event.preventDefault();
      onSubmit();
    }}
  >
    <TextField
      label={label}
      className="flex-1"
      autoFocus
      value={text}
      onChange={(event) => onType(event.target.value)}
      onKeyDown={(event) => event.key === 'Escape' && onCancel()}
    />
    <Button type="submit" look="main" disabled={busy}>
      {act}
    </Button>
    <Button onClick={onCancel}>Cancel</Button>
  </form>
);

'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRouter } from 'next/navigation';
import { type DragEvent, type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { CategoryNode } from '@/core/bank/categoryTree';
import { pointsSaid } from '@/core/base/words';
import { questionTypeNames } from '@/core/question/definitions';
import type { QuestionLine } from './model';

type Rows = { total: number; row: (i: number) => QuestionLine | undefined; need: (from: number, to: number) => void };

type Props = {
  categories: CategoryNode[];
  openCategory: string | null;
  /** A category that takes the focus once it is drawn. */
  focus: string | null;
  onFocused: () => void;
  flat: boolean;
  rows: Rows;
  current: string | null;
  isSelected: (id: string) => boolean;
  onSelect: (id: string, on: boolean, through: boolean) => void;
  address: (change: Record<string, string | null>) => string;
  /** Something was dropped on a category: another category, or the dragged questions. */
  onDropCategory: (dragged: string, target: string, where: 'into' | 'before') => void;
  onDropQuestions: (dragged: string, target: string) => void;
};

type Place = { kind: 'category'; node: CategoryNode } | { kind: 'question'; at: number; depth: number };

/**
 * The bank as one outline: categories with their counts, and below the open one its questions; or the flat list of a
 * filter. Only what is in view is drawn and fetched. Categories and questions can be dragged onto a category.
 */
export function Outline(props: Props) {
  const { categories, openCategory, flat, rows, current, address } = props;
  const router = useRouter();
  const box = useRef<HTMLDivElement>(null);
  const openAt = categories.findIndex((node) => node.id === openCategory);
  const own = flat || openAt >= 0 ? rows.total : 0;
  const count = flat ? own : categories.length + own;
  const place = (i: number): Place => {
    if (flat) return { kind: 'question', at: i, depth: 0 };
    if (openAt >= 0 && i > openAt && i <= openAt + own)
      return { kind: 'question', at: i - openAt - 1, depth: (categories[openAt]?.depth ?? 0) + 1 };
    return { kind: 'category', node: categories[openAt >= 0 && i > openAt + own ? i - own : i] as CategoryNode };
  };
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => box.current,
    estimateSize: (i) => (place(i).kind === 'question' ? 50 : 37),
    overscan: 10,
    initialRect: { width: 500, height: 620 },
  });
  const items = virtual.getVirtualItems();
  const seen = items.flatMap((item) => {
    const one = place(item.index);
    return one.kind === 'question' ? [one.at] : [];
  });
  const [from, to] = [seen[0], seen[seen.length - 1]];
  useEffect(() => {
    if (from !== undefined && to !== undefined) rows.need(from, to);
  });
  const { focus, onFocused } = props;
  useEffect(() => {
    const at = focus === null ? -1 : categories.findIndex((node) => node.id === focus);
    if (at < 0) return;
    const row = box.current?.querySelector<HTMLElement>(`[data-category="${focus}"]`);
    if (!row) return virtual.scrollToIndex(at);
    row.focus();
    onFocused();
  });
  const open = (one: Place) => {
    const line = one.kind === 'question' ? rows.row(one.at) : null;
    if (one.kind === 'question' && !line) return;
    router.push(
      one.kind === 'category'
        ? address({ category: one.node.id === openCategory ? null : one.node.id, question: null })
        : address({ question: line?.id ?? null }),
      { scroll: false },
    );
  };
  const walk = (event: KeyboardEvent, at: number) => {
    const next = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: count - 1 }[event.key];
    const one = place(at);
    const line = one.kind === 'question' ? rows.row(one.at) : null;
    if (event.key === ' ' && line) {
      event.preventDefault();
      props.onSelect(line.id, !props.isSelected(line.id), event.shiftKey);
    }
    if (next === undefined || next < 0 || next >= count) return;
    event.preventDefault();
    virtual.scrollToIndex(next);
    requestAnimationFrame(() => box.current?.querySelector<HTMLButtonElement>(`[data-row="${next}"]`)?.focus());
  };
  return (
    <div ref={box} className="max-h-[calc(100dvh-15rem)] overflow-y-auto">
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {items.map((item) => {
          const one = place(item.index);
          const line = one.kind === 'question' ? rows.row(one.at) : null;
          return (
            <div
              key={one.kind === 'category' ? one.node.id : `q${one.at}`}
              ref={virtual.measureElement}
              data-index={item.index}
              className="absolute inset-x-0 top-0"
              style={{ transform: `translateY(${item.start}px)` }}
            >
              {one.kind === 'category' ? (
                <CategoryRow
                  node={one.node}
                  open={one.node.id === openCategory}
                  index={item.index}
                  onOpen={() => open(one)}
                  onKey={(event) => walk(event, item.index)}
                  onDropCategory={props.onDropCategory}
                  onDropQuestions={props.onDropQuestions}
                />
              ) : (
                // biome-ignore lint/a11y/noStaticElementInteractions: dragging is one way; the bar of the selected questions moves them too
                <div
                  draggable={Boolean(line)}
                  onDragStart={(event) => line && event.dataTransfer.setData('application/x-wuzzen-question', line.id)}
                  className={`flex items-start border-b border-line ${line && line.id === current ? 'bg-prussian-wash' : 'hover:bg-paper'}`}
                  style={{ paddingLeft: 6 + one.depth * 16 }}
                >
                  <input
                    type="checkbox"
                    tabIndex={-1}
                    aria-label={`Select ${line?.shortName || line?.text.split('\n')[0] || 'question'}`}
                    disabled={!line}
                    checked={line ? props.isSelected(line.id) : false}
                    onChange={(event) =>
                      line && props.onSelect(line.id, event.target.checked, (event.nativeEvent as MouseEvent).shiftKey)
                    }
                    className="mt-2.5 mr-2 ml-1 size-4 shrink-0 accent-prussian"
                  />
                  <button
                    type="button"
                    data-row={item.index}
                    onClick={() => open(one)}
                    onKeyDown={(event) => walk(event, item.index)}
                    aria-current={line && line.id === current ? 'true' : undefined}
                    className="block min-h-12 min-w-0 flex-1 text-left -outline-offset-2"
                  >
                    {line ? (
                      <QuestionText line={line} withCategory={flat} />
                    ) : (
                      <span className="block py-3 text-ink-2">…</span>
                    )}
                  </button>
                </div>
              )}
            </div>
          );
        })}
      </div>
      {openAt >= 0 && !flat && own === 0 && (
        <p className="px-4 py-2 text-sm text-ink-2">
          {categories[openAt]?.name} has no questions of its own yet: write one, bring some in, or drag some onto it.
        </p>
      )}
    </div>
  );
}

type CategoryRowProps = {
  node: CategoryNode;
  open: boolean;
  index: number;
  onOpen: () => void;
  onKey: (event: KeyboardEvent) => void;
  onDropCategory: Props['onDropCategory'];
  onDropQuestions: Props['onDropQuestions'];
};

function CategoryRow({ node, open, index, onOpen, onKey, onDropCategory, onDropQuestions }: CategoryRowProps) {
  const [over, setOver] = useState<'into' | 'before' | null>(null);
  const whereIn = (event: DragEvent<HTMLElement>): 'into' | 'before' => {
    const questions = event.dataTransfer.types.includes('application/x-wuzzen-question');
    const { top, height } = event.currentTarget.getBoundingClientRect();
    return !questions && event.clientY < top + height / 3 ? 'before' : 'into';
  };
  const welcome = (event: DragEvent<HTMLElement>) => {
    if (![...event.dataTransfer.types].some((type) => type.startsWith('application/x-wuzzen-'))) return;
    event.preventDefault();
    setOver(whereIn(event));
  };
  return (
    <button
      type="button"
      data-row={index}
      data-category={node.id}
      draggable
      onDragStart={(event) => event.dataTransfer.setData('application/x-wuzzen-category', node.id)}
      data-drop={over}
      onDragEnter={welcome}
      onDragOver={welcome}
      onDragLeave={() => setOver(null)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(null);
        const dragged = event.dataTransfer.getData('application/x-wuzzen-category');
        const question = event.dataTransfer.getData('application/x-wuzzen-question');
        if (question) onDropQuestions(question, node.id);
        else if (dragged && dragged !== node.id) onDropCategory(dragged, node.id, whereIn(event));
      }}
      onClick={onOpen}
      onKeyDown={onKey}
      aria-expanded={open}
      className={`flex min-h-9 w-full items-center gap-2 border-b border-line pr-3 text-left -outline-offset-2 hover:bg-paper ${open ? 'bg-paper font-medium' : ''} ${over === 'into' ? 'bg-prussian-wash' : over === 'before' ? 'border-t-2 border-t-prussian' : ''}`}
      style={{ paddingLeft: 12 + node.depth * 18 }}
    >
      <span className="min-w-0 flex-1 truncate font-serif text-base">{node.name}</span>
      <span
        className="text-sm text-ink-2 tabular-nums"
        title={`${node.own} of its own, ${node.below} with everything below`}
      >
        {node.below === node.own ? node.own : `${node.own} / ${node.below}`}
      </span>
    </button>
  );
}

function QuestionText({ line, withCategory }: { line: QuestionLine; withCategory: boolean }) {
  const stem = line.text.split('\n')[0] ?? '';
  return (
    <span className="block py-1.5 pr-3">
      <span className="flex gap-2">
        <span className="min-w-0 flex-1 truncate">{line.shortName || stem}</span>
        {line.success && (
          <span
            className="shrink-0 text-sm text-ink-2 tabular-nums"
            title={`Success rate: mean credit of ${line.success.n} first attempts`}
          >
            {Math.round(line.success.mean * 100)} %<span className="text-xs"> right of {line.success.n}</span>
          </span>
        )}
      </span>
      <span className="flex gap-2 text-sm text-ink-2">
        <span className="min-w-0 flex-1 truncate">{withCategory ? line.category : line.shortName ? stem : ''}</span>
        <span className="shrink-0">
          {[
            questionTypeNames[line.type].toLowerCase(),
            line.difficulty,
            line.passage ? 'passage' : null,
            pointsSaid(line.points),
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </span>
    </span>
  );
}

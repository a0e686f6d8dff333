'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRouter } from 'next/navigation';
import { type KeyboardEvent, useRef } from 'react';
import type { CategoryNode } from '@/core/bank/categoryTree';
import { pointsText } from '@/core/base/rounding';
import { questionTypeNames } from '@/core/question/types';
import type { BankPageProps, QuestionLine } from './model';

type Props = BankPageProps & { current: string | null; address: (change: Record<string, string | null>) => string };

type Row = { kind: 'category'; node: CategoryNode } | { kind: 'question'; line: QuestionLine; depth: number };

/** The bank as one outline: categories with their counts, and below the open one its questions. Only what is in view is drawn. */
export function Outline({ categories, openCategory, find, questions, current, address }: Props) {
  const router = useRouter();
  const box = useRef<HTMLDivElement>(null);
  const rows: Row[] = find
    ? questions.map((line) => ({ kind: 'question', line, depth: 0 }))
    : categories.flatMap((node): Row[] => {
        const own: Row[] =
          node.id === openCategory ? questions.map((line) => ({ kind: 'question', line, depth: node.depth + 1 })) : [];
        return [{ kind: 'category', node }, ...own];
      });
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => (rows[i]?.kind === 'question' ? 52 : 36),
    overscan: 12,
    initialRect: { width: 500, height: 620 },
  });
  const open = (row: Row) =>
    router.push(
      row.kind === 'category'
        ? address({ category: row.node.id === openCategory ? null : row.node.id, find: null, question: null })
        : address({ question: row.line.id }),
      { scroll: false },
    );
  const walk = (event: KeyboardEvent, at: number) => {
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1 }[event.key];
    if (to === undefined || to < 0 || to >= rows.length) return;
    event.preventDefault();
    virtual.scrollToIndex(to);
    requestAnimationFrame(() => box.current?.querySelector<HTMLButtonElement>(`[data-row="${to}"]`)?.focus());
  };
  if (find && rows.length === 0) return <p className="px-4 py-6 text-ink-2">No question holds “{find}”.</p>;
  return (
    <div ref={box} className="max-h-[calc(100dvh-15rem)] min-h-64 overflow-y-auto">
      {find && <p className="border-b border-line px-4 py-1.5 text-sm text-ink-2">{rows.length} found</p>}
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index] as Row;
          return (
            <div
              key={item.key}
              ref={virtual.measureElement}
              data-index={item.index}
              className="absolute inset-x-0 top-0"
              style={{ transform: `translateY(${item.start}px)` }}
            >
              <button
                type="button"
                data-row={item.index}
                onClick={() => open(row)}
                onKeyDown={(event) => walk(event, item.index)}
                aria-expanded={row.kind === 'category' ? row.node.id === openCategory : undefined}
                aria-current={row.kind === 'question' && row.line.id === current ? 'true' : undefined}
                className="block w-full border-b border-line text-left -outline-offset-2 hover:bg-paper aria-[current]:bg-prussian-wash"
              >
                {row.kind === 'category' ? (
                  <CategoryLine node={row.node} open={row.node.id === openCategory} />
                ) : (
                  <QuestionRow line={row.line} depth={row.depth} withCategory={find !== ''} />
                )}
              </button>
            </div>
          );
        })}
      </div>
    </div>
  );
}

function CategoryLine({ node, open }: { node: CategoryNode; open: boolean }) {
  return (
    <span
      className={`flex min-h-9 items-center gap-2 pr-3 ${open ? 'bg-paper font-medium' : ''}`}
      style={{ paddingLeft: 12 + node.depth * 18 }}
    >
      <span className="min-w-0 flex-1 truncate font-serif text-base">{node.name}</span>
      <span
        className="text-sm text-ink-2 tabular-nums"
        title={`${node.own} of its own, ${node.below} with everything below`}
      >
        {node.below === node.own ? node.own : `${node.own} / ${node.below}`}
      </span>
    </span>
  );
}

function QuestionRow({ line, depth, withCategory }: { line: QuestionLine; depth: number; withCategory: boolean }) {
  const stem = line.text.split('\n')[0] ?? '';
  return (
    <span className="block py-1.5 pr-3" style={{ paddingLeft: 14 + depth * 18 }}>
      <span className="block truncate">{line.shortName || stem}</span>
      <span className="flex gap-2 text-sm text-ink-2">
        <span className="min-w-0 flex-1 truncate">
          {withCategory ? line.category : line.shortName ? stem : questionTypeNames[line.type]}
        </span>
        <span className="shrink-0">
          {[
            line.shortName || withCategory ? questionTypeNames[line.type].toLowerCase() : null,
            line.difficulty,
            `${pointsText(line.points)} p`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </span>
    </span>
  );
}

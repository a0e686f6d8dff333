'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { nodePathNames } from '@/core/bank/categoryTree';
import { filterToQuery } from '@/core/bank/questionFilter';
import { counted, listed, oneOrMany } from '@/core/base/words';
import { ButtonLink } from '../kit/Button';
import { Done } from '../kit/Done';
import { holds } from '../kit/Find';
import { Link } from '../kit/Link';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { textLook } from '../kit/textLook';
import { useLeaving } from '../kit/useLeaving';
import { usePerform } from '../kit/usePerform';
import { type BulkAsked, BulkBar } from './BulkBar';
import { CategoryTools, NewCategory } from './CategoryTools';
import { FilterBar } from './FilterBar';
import type { BankPageProps } from './model';
import { Outline } from './Outline';
import { QuestionSheet } from './QuestionSheet';
import { RetiredQuestion } from './RetiredQuestion';
import { useRows } from './useRows';
import { useSelection } from './useSelection';
import { WriteMenu } from './WriteMenu';

/** So many categories of a name are offered. */
const mostCalled = 6;

/** The bank as an outline or a filtered list at the left, and the open question on its sheet at the right. The address names all of it. */
export function BankPage(props: BankPageProps) {
  const { base, banks, bankId, categories, filter, flat, list, question, begin, commands } = props;
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [done, setDone] = useState<{ auditId: number | null; text: string } | null>(null);
  const rows = useRows(list, filter, commands.listQuestions);
  const selection = useSelection(filter, list.total, rows.row);
  const openCategory = filter.categories[0] ?? null;
  /** The category that was made just now: the focus goes to it once it is drawn. */
  const [added, setAdded] = useState<string | null>(null);

  const address = (change: Record<string, string | null>) => {
    const wanted = new URLSearchParams(filterToQuery(filter));
    if (flat) wanted.set('all', 'yes');
    if (question) wanted.set('question', question.id);
    for (const [name, value] of Object.entries(change)) {
      if (value) wanted.set(name, value);
      else wanted.delete(name);
    }
    return `${base}?${wanted}`;
  };

  const isLeaving = useLeaving();
  /** Where a finished command leads, unless the person has gone elsewhere meanwhile. */
  const goOn = (change: Parameters<typeof address>[0]) => {
    if (!isLeaving()) router.push(address(change));
  };
  const categoryNames = useMemo(() => nodePathNames(categories), [categories]);
  const called =
    filter.text.trim() === '' ? [] : categories.filter((one) => holds(filter.text, categoryNames.get(one.id)));
  const total = categories.filter((one) => one.depth === 0).reduce((sum, one) => sum + one.below, 0);
  const courseBase = base.slice(0, base.indexOf('/banks/'));
  const onSheet = question;
  const addCategory = (name: string, parentId: string | null) =>
    perform(
      () => commands.createCategory({ name, parentId }),
      ({ categoryId }) => {
        setAdded(categoryId);
        router.push(address({ category: categoryId }));
      },
    );
  const moveQuestions = (dragged: string, categoryId: string) => {
    const picked = selection.isSelected(dragged) ? selection.value : { ids: [dragged] };
    void perform(
      () => commands.editMany({ selection: picked, change: { kind: 'move', categoryId } }),
      ({ changed, auditId }) => {
        setDone({ auditId, text: `${said(changed)} moved.` });
        selection.clear();
      },
    );
  };
  const dropCategory = (dragged: string, target: string, where: 'into' | 'before') => {
    const at = categories.find((one) => one.id === target);
    if (!at) return;
    const beside = categories.filter((one) => one.parentId === at.parentId && one.id !== dragged);
    const place =
      where === 'into'
        ? { parentId: target, place: Number.MAX_SAFE_INTEGER }
        : { parentId: at.parentId, place: beside.findIndex((one) => one.id === target) };
    void perform(
      () => commands.moveCategory(dragged, place),
      ({ auditId }) => setDone({ auditId, text: 'Category moved.' }),
    );
  };
  return (
    <PageFrame>
      <PageTitle
        title={
          banks.length > 1 ? (
            <span className="flex gap-4">
              {banks.map((bank) => (
                <Link key={bank.id} href={bank.href} className={bank.id === bankId ? '' : textLook('font-normal')}>
                  {bank.name}
                </Link>
              ))}
            </span>
          ) : (
            (banks[0]?.name ?? 'Bank')
          )
        }
        note={
          <>
            A bank · {counted(total, 'question')} in {counted(categories.length, 'category', 'categories')} ·{' '}
            <TextLink href={`${courseBase}/done?within=${bankId}`}>Done lately</TextLink> ·{' '}
            <TextLink href={`${courseBase}/banks?list=yes`}>All banks</TextLink>
          </>
        }
      >
        <ButtonLink href={`${base}/settings`}>Points, objectives</ButtonLink>
        <ButtonLink href={`${base}/passages`}>Passages</ButtonLink>
        <ButtonLink href={`${base}/health`}>Health</ButtonLink>
        <ButtonLink href={`${base}/bring-in`}>Bring in, take out</ButtonLink>
        <WriteMenu href={(type) => address({ begin: type, question: null })} />
      </PageTitle>
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(320px,5fr)_7fr]">
        <Sheet label="Questions by category" className="lg:sticky lg:top-3">
          {(total > 0 || filter.retired) && <FilterBar {...props} />}
          {selection.count > 0 ? (
            <BulkBar
              {...props}
              count={selection.count}
              total={list.total}
              all={selection.all}
              retired={filter.retired}
              otherBanks={banks.filter((bank) => bank.id !== bankId)}
              busy={busy}
              problem={problems[0]?.message ?? null}
              onAll={selection.selectAll}
              onNone={selection.clear}
              onChange={(change) =>
                void perform(
                  () => commands.editMany({ selection: selection.value, change }),
                  ({ selected, changed, auditId }) => {
                    setDone({
                      auditId,
                      text: `${said(changed)} ${doneTo(change, categories)}${changed < selected ? `; ${selected - changed} were so already or are not concerned` : ''}.`,
                    });
                    selection.clear();
                  },
                )
              }
              onCopy={(to) =>
                void perform(
                  () => commands.copyQuestions(selection.value, to),
                  ({ copied, auditId }) => {
                    setDone({ auditId, text: `${said(copied)} copied.` });
                    selection.clear();
                  },
                )
              }
            />
          ) : (
            !flat &&
            (openCategory ? (
              <CategoryTools
                key={openCategory}
                categories={categories}
                openCategory={openCategory}
                busy={busy}
                onAdd={addCategory}
                onName={(name) =>
                  perform(
                    () => commands.renameCategory(openCategory, name),
                    ({ auditId }) => setDone({ auditId, text: `Renamed to ${name}.` }),
                  )
                }
                onMove={(target) =>
                  perform(
                    () => commands.moveCategory(openCategory, target),
                    ({ auditId }) => setDone({ auditId, text: 'Moved.' }),
                  )
                }
                onDrop={() =>
                  perform(
                    () => commands.deleteCategory(openCategory),
                    ({ auditId }) => {
                      setDone({ auditId, text: 'Category deleted.' });
                      router.push(base);
                    },
                  )
                }
                onEmpty={(targetId) =>
                  perform(
                    () => commands.emptyCategoryInto(openCategory, targetId),
                    ({ auditId, questions }) => {
                      setDone({ auditId, text: `Category deleted; ${said(questions)} moved.` });
                      router.push(`${base}?category=${targetId}`);
                    },
                  )
                }
              />
            ) : (
              <NewCategory busy={busy} onAdd={(name) => addCategory(name, null)} />
            ))
          )}
          <Problems problems={onSheet || begin || selection.count ? [] : problems} className="m-2" />
          {done && (
            <Done
              className="border-b border-line"
              onUndo={
                done.auditId === null
                  ? null
                  : () =>
                      void perform(
                        () => commands.undoChange(done.auditId ?? 0),
                        () => setDone(null),
                      )
              }
            >
              {done.text}
            </Done>
          )}
          {filter.text.trim() !== '' && filter.categories.length > 0 && (
            <p className="border-b border-line bg-saffron-wash px-3 py-1.5 text-sm text-saffron">
              Searched only in{' '}
              {listed(
                filter.categories.map((id) => categoryNames.get(id) ?? 'a category that is gone'),
                2,
              )}
              . <TextLink href={address({ category: null, question: null })}>Search the whole bank</TextLink>
            </p>
          )}
          {called.length > 0 && (
            <p className="flex flex-wrap gap-x-3 border-b border-line px-3 py-1.5 text-sm">
              <span className="text-ink-2">{oneOrMany(called.length, 'Category', 'Categories')} called so:</span>
              {called.slice(0, mostCalled).map((one) => (
                <TextLink key={one.id} href={`${base}?category=${one.id}`}>
                  {categoryNames.get(one.id)} ({one.below})
                </TextLink>
              ))}
              {called.length > mostCalled && <span className="text-ink-2">and {called.length - mostCalled} more</span>}
            </p>
          )}
          {flat && list.total === 0 ? (
            <p className="px-4 py-6 text-ink-2">
              {filter.text ? `No question holds “${filter.text}”` : 'No question matches'}; loosen the filter above.
            </p>
          ) : (
            <Outline
              categories={categories}
              openCategory={openCategory}
              focus={added}
              onFocused={() => setAdded(null)}
              flat={flat}
              rows={rows}
              current={question?.id ?? null}
              isSelected={selection.isSelected}
              onSelect={selection.select}
              address={address}
              onDropCategory={dropCategory}
              onDropQuestions={moveQuestions}
            />
          )}
        </Sheet>
        {onSheet?.retiredAt ? (
          <RetiredQuestion
            question={onSheet}
            busy={busy}
            problems={problems}
            onBringBack={() =>
              void perform(
                () => commands.editMany({ selection: { ids: [onSheet.id] }, change: { kind: 'bring-back' } }),
                ({ auditId }) => {
                  setDone({ auditId, text: 'Question brought back.' });
                  goOn({ question: onSheet.id, retired: null, all: 'yes' });
                },
              )
            }
          />
        ) : onSheet ? (
          <QuestionSheet
            key={`${onSheet.id}/${onSheet.content.type}/${begin ?? ''}`}
            question={onSheet}
            bank={props}
            onSaved={(questionId) => goOn({ question: questionId, begin: null })}
            onNext={(type) => goOn({ question: null, begin: type })}
            onRetired={(auditId) => {
              setDone({ auditId, text: 'Question retired.' });
              goOn({ question: null });
            }}
          />
        ) : (
          <Empty title={total === 0 ? 'An empty bank' : 'No question is open'}>
            {total === 0
              ? 'Write the first question with the button above, or bring in what you have in a document or a spreadsheet. It is kept here for every term to come.'
              : list.total > 0
                ? 'Choose one at the left with the mouse, or with the arrow keys and Enter; Space selects it.'
                : 'Open a category at the left, or find a question by any word in it.'}
          </Empty>
        )}
      </div>
    </PageFrame>
  );
}

const said = (count: number) => counted(count, 'question');

/** What was done to the questions of a bulk change, in words. */
function doneTo(change: BulkAsked, categories: BankPageProps['categories']): string {
  if (change.kind === 'retire') return 'retired';
  if (change.kind === 'bring-back') return 'brought back';
  if (change.kind !== 'move') return 'changed';
  return `moved to ${categories.find((one) => one.id === change.categoryId)?.name ?? 'the category'}`;
}

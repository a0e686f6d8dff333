'use client';
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { ChevronDown } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { blankContent } from '@/core/question/content';
import { questionTypeNames, questionTypes, usualPoints } from '@/core/question/types';
import { Button } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { Empty, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { CategoryTools } from './CategoryTools';
import type { BankPageProps, OpenQuestion } from './model';
import { Outline } from './Outline';
import { QuestionSheet } from './QuestionSheet';

/** The bank as an outline at the left and the open question on its sheet at the right. The address names both. */
export function BankPage(props: BankPageProps) {
  const { base, banks, bankId, categories, openCategory, find, questions, question, begin, commands } = props;
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [undone, setUndo] = useState<{ auditId: number; text: string } | null>(null);
  const searchBox = useRef<HTMLInputElement>(null);
  const [text, setText] = useState(find);

  const address = (change: Record<string, string | null>) => {
    const wanted = new URLSearchParams();
    const parts = {
      category: openCategory,
      find: find || null,
      question: question?.id ?? null,
      begin: null,
      ...change,
    };
    for (const [name, value] of Object.entries(parts)) if (value) wanted.set(name, value);
    return `${base}?${wanted}`;
  };

  useEffect(() => {
    if (text === find) return;
    const timer = setTimeout(
      () =>
        router.replace(
          `${base}?${new URLSearchParams(text ? { find: text } : openCategory ? { category: openCategory } : {})}`,
        ),
      250,
    );
    return () => clearTimeout(timer);
  }, [text, find, base, openCategory, router]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const inField = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]');
      if (event.key !== '/' || inField) return;
      event.preventDefault();
      searchBox.current?.focus();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);

  const total = categories.filter((one) => one.depth === 0).reduce((sum, one) => sum + one.below, 0);
  const home = openCategory ?? question?.categoryId ?? categories[0]?.id ?? null;
  const fresh: OpenQuestion | null =
    begin && home
      ? {
          id: '',
          categoryId: home,
          shortName: '',
          difficulty: null,
          points: usualPoints[begin],
          edit: 0,
          version: 1,
          frozen: false,
          content: blankContent(begin),
          versions: [],
          objectives: [],
        }
      : null;
  const onSheet = fresh ?? question;

  return (
    <div className="min-w-0">
      <PageTitle
        title={
          banks.length > 1 ? (
            <span className="flex gap-4">
              {banks.map((bank) => (
                <Link
                  key={bank.id}
                  href={bank.href}
                  className={bank.id === bankId ? '' : 'font-normal text-prussian underline'}
                >
                  {bank.name}
                </Link>
              ))}
            </span>
          ) : (
            (banks[0]?.name ?? 'Bank')
          )
        }
        note={`${total} ${total === 1 ? 'question' : 'questions'} in ${categories.length} ${categories.length === 1 ? 'category' : 'categories'}`}
      >
        <Menu>
          <MenuButton as={Button} look="main">
            Write a question <ChevronDown size={15} aria-hidden="true" />
          </MenuButton>
          <MenuItems
            anchor="bottom end"
            className="z-30 min-w-52 border border-line bg-sheet py-1 shadow-md outline-none"
          >
            {questionTypes.map((type) => (
              <MenuItem key={type}>
                <Link
                  href={address({ begin: type, question: null })}
                  className="block px-4 py-2 data-focus:bg-prussian-wash"
                >
                  {questionTypeNames[type]}
                </Link>
              </MenuItem>
            ))}
          </MenuItems>
        </Menu>
      </PageTitle>
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(320px,5fr)_7fr]">
        <Sheet label="Questions by category" className="lg:sticky lg:top-3">
          <div className="border-b border-line p-2">
            <input
              ref={searchBox}
              type="search"
              aria-label="Find questions"
              placeholder="Find questions  /"
              value={text}
              onChange={(event) => setText(event.target.value)}
              className={inputShape}
            />
          </div>
          {openCategory && !find && (
            <CategoryTools
              key={openCategory}
              categories={categories}
              openCategory={openCategory}
              busy={busy}
              onAdd={(name, parentId) =>
                perform(
                  () => commands.addCategory(name, parentId),
                  ({ categoryId }) => router.push(address({ category: categoryId, find: null })),
                )
              }
              onName={(name) =>
                perform(
                  () => commands.nameCategory(openCategory, name),
                  ({ auditId }) => setUndo({ auditId, text: `Renamed to ${name}.` }),
                )
              }
              onMove={(target) =>
                perform(
                  () => commands.putCategory(openCategory, target),
                  ({ auditId }) => setUndo({ auditId, text: 'Moved.' }),
                )
              }
              onDrop={() =>
                perform(
                  () => commands.dropCategory(openCategory),
                  ({ auditId }) => {
                    setUndo({ auditId, text: 'Category deleted.' });
                    router.push(base);
                  },
                )
              }
            />
          )}
          <Problems problems={onSheet ? [] : problems} className="m-2" />
          {undone && (
            <p
              role="status"
              className="flex items-center justify-between gap-3 border-b border-line bg-prussian-wash px-3 py-1.5 text-sm"
            >
              {undone.text}
              <button
                type="button"
                className="text-prussian underline"
                onClick={() =>
                  void perform(
                    () => commands.undo(undone.auditId),
                    () => setUndo(null),
                  )
                }
              >
                Undo
              </button>
            </p>
          )}
          <Outline {...props} current={question?.id ?? null} address={address} />
        </Sheet>
        {onSheet ? (
          <QuestionSheet
            key={`${onSheet.id}/${onSheet.content.type}/${begin ?? ''}`}
            question={onSheet}
            categories={categories}
            commands={commands}
            onSaved={(questionId) => router.push(address({ question: questionId, begin: null }))}
            onNext={(type) => router.push(address({ question: null, begin: type }))}
            onRetired={(auditId) => {
              setUndo({ auditId, text: 'Question retired.' });
              router.push(address({ question: null }));
            }}
          />
        ) : (
          <Empty title={total === 0 ? 'An empty bank' : 'No question is open'}>
            {total === 0
              ? 'Write the first question with the button above. It is kept here for every term to come.'
              : questions.length > 0
                ? 'Choose one at the left with the mouse, or with the arrow keys and Enter.'
                : 'Open a category at the left, or find a question by any word in it.'}
          </Empty>
        )}
      </div>
    </div>
  );
}

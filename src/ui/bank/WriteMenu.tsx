'use client';
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { ChevronDown } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { type KeyboardEvent, useEffect, useRef } from 'react';
import { questionTypeNames } from '@/core/question/definitions';
import { type QuestionType, questionTypes } from '@/core/question/types';
import { Button } from '../kit/Button';
import { Link } from '../kit/Link';

type Props = {
  /** Where a new question of a type is begun. */
  href: (type: QuestionType) => string;
};

/** The letter that begins each type: the first of its name that no type before it has. */
export const typeLetters: ReadonlyMap<QuestionType, number> = (() => {
  const taken = new Set<string>();
  const places = new Map<QuestionType, number>();
  for (const type of questionTypes) {
    const letters = [...questionTypeNames[type].toLowerCase()];
    const at = letters.findIndex((letter) => /[a-z]/.test(letter) && !taken.has(letter));
    taken.add(letters[at] ?? '');
    places.set(type, at);
  }
  return places;
})();

const letterOf = (type: QuestionType) => questionTypeNames[type][typeLetters.get(type) ?? 0]?.toLowerCase();

/** "Write a question" and its types: N opens them, Alt+N from within a text, and the letter that is underlined begins one. */
export function WriteMenu({ href }: Props) {
  const router = useRouter();
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      if (event.code !== 'KeyN' || event.ctrlKey || event.metaKey || event.shiftKey) return;
      const inField = (event.target as HTMLElement).closest(
        'input, textarea, select, [contenteditable], [role="menu"]',
      );
      if (inField && !event.altKey) return;
      event.preventDefault();
      button.current?.click();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
  const beginByLetter = (event: KeyboardEvent) => {
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    const type = questionTypes.find((one) => letterOf(one) === event.key.toLowerCase());
    if (!type) return;
    event.preventDefault();
    event.stopPropagation();
    button.current?.click();
    router.push(href(type));
  };
  return (
    <Menu>
      <MenuButton as={Button} ref={button} look="main" title="Write a question (N)">
        Write a question <ChevronDown size={15} aria-hidden="true" />
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        onKeyDownCapture={beginByLetter}
        className="z-30 min-w-52 border border-line bg-sheet py-1 shadow-md outline-none"
      >
        {questionTypes.map((type) => (
          <MenuItem key={type}>
            <Link href={href(type)} className="block px-4 py-1.5 data-focus:bg-prussian-wash">
              <TypeName type={type} />
            </Link>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}

function TypeName({ type }: { type: QuestionType }) {
  const name = questionTypeNames[type];
  const at = typeLetters.get(type) ?? 0;
  return (
    <>
      {name.slice(0, at)}
      <span className="underline underline-offset-2">{name[at]}</span>
      {name.slice(at + 1)}
    </>
  );
}

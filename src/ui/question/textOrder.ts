import type { KeyboardEvent } from 'react';

/** Marks a field as one of the texts a question is written in, for {@link tabToNextText}. */
export const isText = { 'data-writes': '' };

/**
 * Tab goes straight from one text of a question to the next, so that a question is typed without looking up; behind the
 * last one it goes on as everywhere. What stands between them is reached backwards with Shift+Tab, and by keys.
 */
export function tabToNextText(event: KeyboardEvent<HTMLElement>): void {
  if (event.key !== 'Tab' || event.shiftKey || event.altKey || event.ctrlKey || event.defaultPrevented) return;
  const here = (event.target as HTMLElement).closest('[data-writes]');
  if (!here) return;
  const texts = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-writes]')];
  const next = texts[texts.indexOf(here as HTMLElement) + 1];
  if (!next) return;
  event.preventDefault();
  next.focus();
}

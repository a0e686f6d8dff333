import type { KeyboardEvent, MouseEvent } from 'react';

/** Marks a field as one of the texts a question is written in, for {@link tabToNextText}. */
export const isText = { 'data-writes': '' };

/** Marks the button that adds another of the texts above it: what Tab reaches behind the last of them. */
export const addsText = { 'data-adds': '' };

const textsIn = (sheet: HTMLElement) => [...sheet.querySelectorAll<HTMLElement>('[data-writes]')];

/**
 * Tab goes straight from one text of a question to the next, so that a question is typed without looking up; behind the
 * last one to what adds another, never onto what removes the last. What stands between them is reached backwards with
 * Shift+Tab, and by keys.
 */
export function tabToNextText(event: KeyboardEvent<HTMLElement>): void {
  if (event.key !== 'Tab' || event.shiftKey || event.altKey || event.ctrlKey || event.defaultPrevented) return;
  const here = (event.target as HTMLElement).closest<HTMLElement>('[data-writes]');
  if (!here) return;
  const texts = textsIn(event.currentTarget);
  const next =
    texts[texts.indexOf(here) + 1] ??
    [...event.currentTarget.querySelectorAll<HTMLElement>('[data-adds]')].find(
      (one) => here.compareDocumentPosition(one) & Node.DOCUMENT_POSITION_FOLLOWING,
    );
  if (!next) return;
  event.preventDefault();
  next.focus();
}

/** Editors stand a moment after they are asked for; so many frames are waited for one. */
const mostFrames = 20;

/**
 * Keeps the focus where the author is: what was added is written at once, and where what was removed took the focus with
 * it, the next text has it. To be called with every press on the sheet, before it acts.
 */
export function followPress(event: MouseEvent<HTMLElement>): void {
  const sheet = event.currentTarget;
  const button = (event.target as HTMLElement).closest<HTMLElement>('button');
  if (!button) return;
  const before = textsIn(sheet);
  const adds = button.matches('[data-adds]');
  const behind = before.filter((one) => one.compareDocumentPosition(button) & Node.DOCUMENT_POSITION_FOLLOWING).length;
  let frames = 0;
  const look = () => {
    if (!sheet.isConnected) return;
    const texts = textsIn(sheet);
    const added = adds ? texts.find((one) => !before.includes(one)) : undefined;
    if (added) return added.focus();
    if (!button.isConnected && document.activeElement === document.body)
      return texts[Math.min(Math.max(behind - 1, 0), texts.length - 1)]?.focus();
    frames += 1;
    if (frames < mostFrames) requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
}

import { cleanup, configure } from '@testing-library/react';
import { afterEach, vi } from 'vitest';

// A busy machine takes longer than a second to show what was asked for.
configure({ asyncUtilTimeout: 10_000 });

/** What a text editor asks of a browser and jsdom lacks: it draws nothing, so every rectangle is empty. */
const nowhere = { x: 0, y: 0, top: 0, left: 0, right: 0, bottom: 0, width: 0, height: 0, toJSON: () => ({}) };
Range.prototype.getClientRects ??= () => [] as unknown as DOMRectList;
Range.prototype.getBoundingClientRect ??= () => nowhere;
Element.prototype.scrollIntoView ??= () => undefined;
Element.prototype.getClientRects ??= () => [] as unknown as DOMRectList;
document.elementFromPoint ??= () => null;
/** Names of groups of radio buttons are walked by the arrow keys. */
globalThis.CSS ??= { escape: (text: string) => text.replace(/[^\w-]/g, (one) => `\\${one}`) } as typeof CSS;
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

/** Gives every element the size in pixels that a browser would draw it in. Without it nothing has any, and nothing is in view. */
export function seenIn(width: number, height: number): void {
  vi.spyOn(Element.prototype, 'clientWidth', 'get').mockReturnValue(width);
  vi.spyOn(Element.prototype, 'clientHeight', 'get').mockReturnValue(height);
}

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

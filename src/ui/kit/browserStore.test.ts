// @vitest-environment jsdom
import { afterEach, describe, expect, it, vi } from 'vitest';
import { browserStore } from './browserStore';

afterEach(() => vi.restoreAllMocks());

describe('the store of the browser', () => {
  it('keeps what it is given', () => {
    const store = browserStore();
    store?.setItem('a', '1');
    expect([store?.getItem('a'), store?.keys()]).toEqual(['1', ['a']]);
    store?.removeItem('a');
    expect(store?.keys()).toEqual([]);
  });

  it('is none where the browser forbids it, and throws nothing', () => {
    vi.spyOn(globalThis, 'localStorage', 'get').mockImplementation(() => {
      throw new DOMException('The store is forbidden.', 'SecurityError');
    });
    expect(browserStore()).toBeNull();
  });
});

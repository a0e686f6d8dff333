/** Where a browser keeps things for its pages. */
export type Store = {
  /** The names of everything that is kept. */
  keys(): string[];
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
};

/** The browser's own store; null where it has none. */
export const browserStore = (): Store | null =>
  typeof localStorage === 'undefined'
    ? null
    : {
        keys: () => Object.keys(localStorage),
        getItem: (key) => localStorage.getItem(key),
        setItem: (key, value) => localStorage.setItem(key, value),
        removeItem: (key) => localStorage.removeItem(key),
      };

/** Where a browser keeps things for its pages. */
export type Store = {
  /** The names of everything that is kept. */
  keys(): string[];
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
};

/** A browser that forbids pages to keep anything throws already when its store is named. */
function reachable(): Storage | null {
  try {
    return typeof localStorage === 'undefined' ? null : localStorage;
  } catch {
    return null;
  }
}

/** The browser's own store; null where it has none, or forbids it. */
export function browserStore(): Store | null {
  const store = reachable();
  return (
    store && {
      keys: () => Object.keys(store),
      getItem: (key) => store.getItem(key),
      setItem: (key, value) => store.setItem(key, value),
      removeItem: (key) => store.removeItem(key),
    }
  );
}

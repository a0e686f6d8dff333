import { useEffect, useState } from 'react';

const read = (name: string): string => {
  try {
    return sessionStorage.getItem(name) ?? '';
  } catch {
    return '';
  }
};

const write = (name: string, words: string): void => {
  try {
    if (words) sessionStorage.setItem(name, words);
    else sessionStorage.removeItem(name);
  } catch {
    // A full or forbidden store: the words last as long as the page.
  }
};

/**
 * Words that are being typed and are no answer: they outlive a reload and a walk to another question, and go with the tab.
 *
 * @param name of what they are about, unlike any other of this origin
 * @returns the words, how to change them, and how to put them away: sent, or not wanted
 */
export function useKeptWords(name: string): [words: string, change: (words: string) => void, away: () => void] {
  const [words, setWords] = useState('');
  useEffect(() => setWords(read(name)), [name]);
  const change = (next: string) => {
    setWords(next);
    write(name, next);
  };
  return [words, change, () => write(name, '')];
}

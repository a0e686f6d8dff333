import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { bytesToUtf8, utf8ToBytes } from '@noble/ciphers/utils.js';
import type { Instant } from '@/core/base/time';
import type { Store } from '../kit/browserStore';

/** What every entry begins with; entries of another make are not read. */
const make = 'wuzzen-kept/1/';
/** What earlier makes of the app kept in a browser without a lock; it goes as soon as it is met. */
const unlocked = ['wuzzen-draft/', 'wuzzen.mark.', 'wuzzen.second-mark.'];
/** After so long nobody comes back for what they typed, in milliseconds. */
const longestKept = 60 * 86_400_000;

/** About as long as a long plan is when it is written down, in characters. */
const usualLength = 40_000;

/** Whose journal it is, and the key to it, which the server gives to nobody else (32 bytes). */
export type Keeping = { userId: string; key: Uint8Array };

/** What was typed into an object and is not on the server, as far as this browser knows. */
export type Entry = {
  /** When it was last typed into, by this browser's clock. */
  at: Instant;
  /** What it is, in words, and where it is gone on with. */
  title: string;
  href: string;
  /** What stood on the server when it was begun. */
  base: { edit: number; value: unknown };
  value: unknown;
  /** What was sent and never answered, by the name under which the server carries it out once; null for nothing. */
  unanswered: { once: string; edit: number; value: unknown } | null;
};

/**
 * What a person typed that has not reached the server: in the browser, under lock. The key comes with every page of that
 * person and is kept in memory alone, so that whoever sits down at the machine next can read nothing of it.
 */
export class Journal {
  constructor(
    private store: Store | null,
    private keeping: Keeping,
    private now: () => Instant,
  ) {
    for (const name of this.names())
      if (
        unlocked.some((start) => name.startsWith(start)) ||
        (name.startsWith('wuzzen-kept/') && !name.startsWith(make))
      )
        this.drop(name);
  }

  private names(): string[] {
    try {
      return this.store?.keys() ?? [];
    } catch {
      return [];
    }
  }

  private nameOf(object: string): string {
    return `${make}${this.keeping.userId}/${object}`;
  }

  private drop(name: string): void {
    try {
      this.store?.removeItem(name);
    } catch {
      // A forbidden store keeps nothing, so nothing has to go.
    }
  }

  /** Writes down what was typed. @returns whether there was room for it */
  write(object: string, entry: Omit<Entry, 'at'>): boolean {
    try {
      if (!this.store) return false;
      const name = this.nameOf(object);
      this.store.setItem(name, lock(this.keeping.key, name, JSON.stringify({ ...entry, at: this.now() })));
      return true;
    } catch {
      return false;
    }
  }

  /** Locks something that goes nowhere: the first time takes ten times as long as those after it, and nobody is typing yet. */
  warm(): void {
    lock(this.keeping.key, 'warm', ' '.repeat(usualLength));
  }

  /** What was typed into an object and waits; null for nothing, and for what cannot be read, which goes. */
  read(object: string): Entry | null {
    const name = this.nameOf(object);
    try {
      const locked = this.store?.getItem(name) ?? null;
      if (locked === null) return null;
      const entry: unknown = JSON.parse(unlock(this.keeping.key, name, locked));
      if (isEntry(entry) && entry.at > this.now() - longestKept) return entry;
    } catch {
      // Another key, or damaged: it says nothing to anybody.
    }
    this.drop(name);
    return null;
  }

  /** It is on the server, or not wanted: nothing of it stays. */
  forget(object: string): void {
    this.drop(this.nameOf(object));
  }

  /** All that waits, the newest first. */
  list(): (Entry & { object: string })[] {
    const start = this.nameOf('');
    return this.names()
      .filter((name) => name.startsWith(start))
      .flatMap((name) => {
        const object = name.slice(start.length);
        const entry = this.read(object);
        return entry ? [{ ...entry, object }] : [];
      })
      .sort((a, b) => b.at - a.at);
  }
}

function isEntry(value: unknown): value is Entry {
  const entry = value as Partial<Entry> | null;
  return (
    typeof entry?.at === 'number' &&
    typeof entry.title === 'string' &&
    typeof entry.href === 'string' &&
    typeof entry.base?.edit === 'number' &&
    'value' in entry
  );
}

const nonceLength = 24;

/** XChaCha20-Poly1305 (draft-irtf-cfrg-xchacha-03) under a fresh nonce; its name goes with it, so that entries cannot be exchanged. */
function lock(key: Uint8Array, name: string, text: string): string {
  const nonce = crypto.getRandomValues(new Uint8Array(nonceLength));
  const sealed = xchacha20poly1305(key, nonce, utf8ToBytes(name)).encrypt(utf8ToBytes(text));
  return `${toText(nonce)}.${toText(sealed)}`;
}

function unlock(key: Uint8Array, name: string, locked: string): string {
  const [nonce = '', sealed = ''] = locked.split('.');
  return bytesToUtf8(xchacha20poly1305(key, toBytes(nonce), utf8ToBytes(name)).decrypt(toBytes(sealed)));
}

/** How many bytes become text at a time: more arguments than this a function may not take. */
const chunk = 8_192;

/** Bytes as base64. */
function toText(bytes: Uint8Array): string {
  // A plan of hundreds of lines is written down at every key: where the browser has its own way, it is ten times as fast.
  const own = bytes as Uint8Array & { toBase64?: () => string };
  if (own.toBase64) return own.toBase64();
  let text = '';
  for (let i = 0; i < bytes.length; i += chunk) text += String.fromCharCode(...bytes.subarray(i, i + chunk));
  return btoa(text);
}

/** Bytes from base64. */
export function toBytes(text: string): Uint8Array {
  const signs = atob(text);
  const bytes = new Uint8Array(signs.length);
  for (let i = 0; i < signs.length; i++) bytes[i] = signs.charCodeAt(i);
  return bytes;
}

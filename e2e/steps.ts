import type { KeyInput, Page } from 'puppeteer-core';
import { press, pressLike } from './house';

/**
 * Counts the steps of a job: every key that does something and every press of the pointer is one. Words are typed whatever
 * the way, and count for nothing.
 */
export class Steps {
  taken: string[] = [];
  constructor(private readonly page: Page) {}

  /** A key, with those held down meanwhile: `key('Control', 's')`. */
  async key(...keys: KeyInput[]): Promise<this> {
    const held = keys.slice(0, -1);
    for (const one of held) await this.page.keyboard.down(one);
    await this.page.keyboard.press(keys.at(-1) as KeyInput);
    for (const one of held.reverse()) await this.page.keyboard.up(one);
    this.taken.push(keys.join('+'));
    return this;
  }

  /** A press of the pointer on what has this name. */
  async press(name: string): Promise<this> {
    await press(this.page, name);
    this.taken.push(`[${name}]`);
    return this;
  }

  /** A press of the pointer on what holds these words; its name may hold numbers besides. */
  async pressLike(words: string): Promise<this> {
    await pressLike(this.page, words);
    this.taken.push(`[… ${words} …]`);
    return this;
  }

  async type(words: string): Promise<this> {
    await this.page.keyboard.type(words);
    return this;
  }
}

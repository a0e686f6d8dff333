import type { Page } from 'puppeteer-core';
import type { House } from './house';
import { moveClock } from './serve';

type Shifted = typeof globalThis & { shifted?: number; streams?: EventSource[] };

/**
 * What is said for a page that was on its way elsewhere when it was asked: when its time is over, it goes by itself.
 *
 * @throws what has another reason
 */
export const onItsWay =
  <T>(otherwise: T) =>
  (why: unknown): T => {
    if (!/context was destroyed|detached/i.test(String(why))) throw why;
    return otherwise;
  };

/**
 * Clocks that go on together: the server's, and those of pages, which otherwise stay where they are. A page follows from
 * its next navigation on.
 */
export class Clocks {
  at = 0;
  private pages: Page[] = [];

  constructor(private house: House) {}

  /** A page whose clock goes on with the server's. */
  async follow(page: Page): Promise<Page> {
    await page.evaluateOnNewDocument(() => {
      const own = Date.now.bind(Date);
      // Going offline leaves streams that are open as they are: they are cut by hand.
      const streams: EventSource[] = [];
      Object.assign(globalThis, { streams });
      const Own = globalThis.EventSource;
      (globalThis as { EventSource: unknown }).EventSource = class extends Own {
        constructor(address: string) {
          super(address);
          streams.push(this);
        }
      };
      Date.now = () => own() + ((globalThis as Shifted).shifted ?? Number(sessionStorage.getItem('shifted') ?? 0));
    });
    this.pages.push(page);
    return page;
  }

  /** The network of a page is gone, with every stream that was open. */
  async cut(page: Page): Promise<void> {
    await page.setOfflineMode(true);
    await page
      .evaluate(() => {
        for (const stream of (globalThis as Shifted).streams ?? []) stream.close();
      })
      // Its streams are left behind, and it opens none any more.
      .catch(onItsWay(undefined));
  }

  /** So many milliseconds pass, for the server and for every page. */
  async pass(milliseconds: number): Promise<void> {
    this.at += milliseconds;
    await moveClock(this.house.served.origin, this.at);
    for (const page of this.pages.filter((one) => !one.isClosed()))
      await page
        .evaluate((shift) => {
          (globalThis as Shifted).shifted = shift;
          sessionStorage.setItem('shifted', String(shift));
        }, this.at)
        .catch(() => undefined);
  }

  /** The server's clock is set right again. */
  async back(): Promise<void> {
    this.at = 0;
    this.pages = [];
    await moveClock(this.house.served.origin, 0);
  }
}

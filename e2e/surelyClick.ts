import { ElementHandle } from 'puppeteer-core';

type Watching = Window & { clickWatch?: object; clickMet?: boolean };

/** Looks, from now on, at what the next click meets: the element itself, or the label that stands for it. */
const watch = (element: Element) => {
  const page = window as Watching;
  const own = {};
  page.clickWatch = own;
  delete page.clickMet;
  addEventListener(
    'click',
    ({ target }) => {
      if (page.clickWatch !== own) return;
      page.clickMet =
        target instanceof Element && (element.contains(target) || target.closest('label')?.control === element);
    },
    { capture: true, once: true },
  );
};
const hasMet = () => (window as Watching).clickMet ?? null;

/** Longer than a command takes; a test that holds one back clicks all the same. */
const mostPatience = 3_000;

/** Waits, as a person would, until what was done before is stored and the page shows it: it may move as the answer comes. */
const untilShown = async (_: Element, patience: number) => {
  const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
  const root = document.documentElement;
  const begun = performance.now();
  if (!root.hasAttribute('data-under-way')) return;
  while (root.hasAttribute('data-under-way') && performance.now() - begun < patience) await frame();
  // What floats beside something else follows it within two frames.
  await frame();
  await frame();
};

const mostTries = 5;
const clickOnce = ElementHandle.prototype.click;

/**
 * A click goes to a place on the page, and on a busy machine what stands there can move between the look and the press, as
 * an answer of the server comes in. Where a click has met something else it is made again, as a person would.
 */
ElementHandle.prototype.click = async function (this: ElementHandle<Element>, options) {
  for (let tries = 1; ; tries++) {
    await this.evaluate(untilShown, mostPatience);
    await this.evaluate(watch);
    await clickOnce.call(this, options);
    // A page that was left by the click has nothing to say of it any more.
    const met = await this.evaluate(hasMet).catch(() => null);
    if (met !== false) return;
    if (tries === mostTries) throw new Error('What is to be clicked moves away from under the pointer.');
  }
};

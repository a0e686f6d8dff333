import { JSDOM } from 'jsdom';
import { pasted } from '../../src/core/testing/layouts/pasted';
import { tables } from '../../src/core/testing/layouts/tables';
import { doubtful, typed } from '../../src/core/testing/layouts/typed';
import { judgedLayout } from './judgedLayout';

/** Of the layouts made for the tests: the share of questions read wholly rightly, asked about, and wrong in silence. */
export function importLayouts(): void {
  const { window } = new JSDOM();
  Object.assign(globalThis, { DOMParser: window.DOMParser, HTMLElement: window.HTMLElement });
  const sums = (layouts: typeof typed) => {
    const all = layouts.map(judgedLayout);
    const sum = (of: (one: (typeof all)[number]) => number) => all.reduce((so, one) => so + of(one), 0);
    return {
      layouts: all.length,
      questions: sum((one) => one.total),
      right: sum((one) => one.right),
      asked: sum((one) => one.asked.length),
      silent: sum((one) => one.silent.length),
    };
  };
  const { layouts, questions, right, asked, silent } = sums([...typed, ...pasted, ...tables]);
  console.log(
    JSON.stringify({
      name: 'import.layouts',
      value: Number(((100 * right) / questions).toFixed(1)),
      unit: '% of questions read wholly rightly',
      layouts,
      questions,
      asked,
      silent,
      doubtful: sums(doubtful),
    }),
  );
}

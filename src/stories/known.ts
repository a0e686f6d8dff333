import type { NetMode, Story } from './story';

const type = (window: number, question: number, value: number | null = 0) =>
  ({ kind: 'type', window, question, value }) as const;
const at = (window: number, kind: 'open' | 'reload' | 'close' | 'press' | 'drop' | 'beat' | 'next') =>
  ({ kind, window }) as const;
const net = (window: number, mode: NetMode) => ({ kind: 'net', window, mode }) as const;
const end = (of: 'deadline' | 'grace' | 'question', seconds: number) => ({ kind: 'to-end', of, seconds }) as const;
const wait = (seconds: number) => ({ kind: 'wait', seconds }) as const;

/** Stories that were told wrongly once, or in which much meets: they are played in every test. */
export const knownStories: Record<string, Story> = {
  'an answer unsent at the end of the time, a grace, and the network back within it': {
    rules: ['grace'],
    oneBrowser: true,
    skew: 0,
    steps: [type(0, 0), net(0, 'down'), type(0, 1), end('deadline', 20), net(0, 'up'), at(0, 'press')],
  },
  'a hand-in pressed without a network, within the grace': {
    rules: ['grace'],
    oneBrowser: true,
    skew: 40_000,
    steps: [net(0, 'down'), type(0, 0), end('deadline', 4), at(0, 'press'), wait(20), net(0, 'up'), wait(5)],
  },
  'a hand-in pressed without a network, which is back after the grace': {
    rules: ['grace', 'required'],
    oneBrowser: true,
    skew: 0,
    steps: [type(0, 0), net(0, 'down'), type(0, 1), at(0, 'press'), end('grace', 20), net(0, 'up'), wait(5)],
  },
  'a pressed hand-in survives a reload': {
    rules: ['no-limit'],
    oneBrowser: true,
    skew: 0,
    steps: [type(0, 0), net(0, 'down'), type(0, 1), at(0, 'press'), at(0, 'reload'), net(0, 'up'), wait(5)],
  },
  'onward only, with a question that has to be answered left empty': {
    rules: ['onward', 'required'],
    oneBrowser: true,
    skew: 0,
    steps: [at(0, 'next'), at(0, 'next'), type(0, 0), type(0, 3), at(0, 'next'), type(0, 0, 1), at(0, 'press')],
  },
  'two tabs of one browser, of which the older forgets nothing of the newer': {
    rules: ['grace'],
    oneBrowser: true,
    skew: 0,
    steps: [at(1, 'open'), type(1, 0, null), at(0, 'press'), at(1, 'reload'), end('deadline', -30)],
  },
  'what an older device could not send, after another has written': {
    rules: ['closing'],
    oneBrowser: false,
    skew: 0,
    steps: [net(0, 'down'), type(0, 0, 1), at(0, 'close'), at(1, 'open'), type(1, 0, 2), net(0, 'up'), at(0, 'open')],
  },
  'more time in the last second, while the page hands in by itself': {
    rules: ['extra-time'],
    oneBrowser: true,
    skew: 0,
    steps: [net(0, 'down'), type(0, 0), end('deadline', 0), { kind: 'more-time', minutes: 2 }, net(0, 'up'), wait(5)],
  },
  'voided while its student writes, and taken back': {
    rules: ['tries'],
    oneBrowser: true,
    skew: 0,
    steps: [type(0, 0), { kind: 'void' }, wait(60), { kind: 'restore' }, at(0, 'open'), type(0, 1), at(0, 'press')],
  },
  'handed in without a network, and opened again before it is back': {
    rules: ['closing', 'grace'],
    oneBrowser: true,
    skew: 0,
    steps: [net(0, 'down'), at(0, 'press'), end('grace', 20), { kind: 'reopen', minutes: 5 }, net(0, 'up'), wait(5)],
  },
  'a part takes two answers, and the third was given where nobody heard of the others': {
    rules: ['choose'],
    oneBrowser: false,
    skew: 0,
    steps: [net(0, 'down'), type(0, 2), at(1, 'open'), type(1, 3), type(1, 4), net(0, 'up'), at(0, 'reload')],
  },
  'an answer given while the hand-in is under way': {
    rules: ['closing'],
    oneBrowser: true,
    skew: 0,
    steps: [type(0, 0), wait(1), net(0, 'slow'), at(0, 'press'), type(0, 1), net(0, 'up'), wait(5)],
  },
  'handed in, and the network gone before the receipt came': {
    rules: ['no-limit'],
    oneBrowser: true,
    skew: 0,
    steps: [type(0, 0), wait(1), net(0, 'slow'), at(0, 'press'), net(0, 'down'), wait(20)],
  },
};

import { parentPort } from 'node:worker_threads';
import type { HandsetNews, HandsetOrder } from '../core/round/handsetOrder';
import { Handset } from './handset';

/** They come in over so long, as a class does that reads a code from a wall. */
const comingInOver = 15_000;

/** Sends handsets out, and tells what becomes of them. */
parentPort?.once('message', (order: HandsetOrder) => {
  const news: HandsetNews = { cameIn: 0, answered: 0, refused: 0, gone: 0, at: 0 };
  let told = '';
  const names = { 'came-in': 'cameIn', answered: 'answered', refused: 'refused', gone: 'gone' } as const;
  const say = setInterval(() => {
    const now = JSON.stringify(news);
    if (now !== told) parentPort?.postMessage({ ...news, at: Date.now() });
    told = now;
    if (news.gone === order.count) {
      clearInterval(say);
      parentPort?.close();
    }
  }, 500);
  for (let i = 0; i < order.count; i++) {
    const handset = new Handset(order, order.first + i, (event) => {
      if (event.kind in names) news[names[event.kind as keyof typeof names]] += 1;
    });
    setTimeout(() => void handset.live(), (i * comingInOver) / order.count / order.pace);
  }
});

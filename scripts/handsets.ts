import { mostHandsets } from '../src/core/round/handsetOrder';
import { Handset } from '../src/workers/handset';

/**
 * Brings made-up handsets into a round, from anywhere:
 * npm run handsets -- http://localhost:3000/in/made-up?code=KRT346&round=…&key=… 30
 * The address stands on the page of the round's made-up handsets.
 */
const [address = '', number = '20'] = process.argv.slice(2);
const count = Number(number);
const url = URL.canParse(address) ? new URL(address) : null;
const [code, sittingId, key] = ['code', 'round', 'key'].map((name) => url?.searchParams.get(name) ?? '');
if (!url || !code || !sittingId || !key || !Number.isInteger(count) || count < 1 || count > mostHandsets) {
  console.error(
    `Give the address from the page of made-up handsets, in quotes, and how many (1 to ${mostHandsets}):\n  npm run handsets -- 'http://…/in/made-up?code=…&round=…&key=…' 30`,
  );
  process.exit(1);
}
const order = { origin: url.origin, code, sittingId, key, count, first: 0, pace: 1 };
const counts: Record<string, number> = {};
const first = Math.floor(Math.random() * 100_000);
await Promise.all(
  Array.from({ length: count }, async (_, i) => {
    await new Promise((resolve) => setTimeout(resolve, (i * 15_000) / count));
    await new Handset(order, first + i, (event) => {
      counts[event.kind] = (counts[event.kind] ?? 0) + 1;
      if (event.kind === 'failed') console.error(event.said);
    }).live();
  }),
);
console.log(
  `${counts['came-in'] ?? 0} came in, ${counts.answered ?? 0} answers taken, ${counts.refused ?? 0} refused.`,
);
process.exit(0);

import { serve, signIn } from '../e2e/serve';
import { mainViews } from '../e2e/views';
import { databaseFile, openDatabase } from '../src/db/client';
import { demoPassword } from '../src/server/people/demoPeople';
import { median } from './bench/measure';
const folder = process.argv[2] as string;
const only = process.argv[3];
const served = await serve(folder, 'demo');
const db = openDatabase(databaseFile(folder));
const views = mainViews(db).filter((v) => !only || v.name.includes(only));
const get = async (url: string, cookie: string) => { const b = performance.now(); const a = await fetch(url, { headers: { cookie }, redirect: 'manual' }); const n=(await a.arrayBuffer()).byteLength; if (a.status !== 200) console.log('!!', url, a.status); return [performance.now() - b, n] as const; };
const cookies = new Map<string | null, string>([[null, '']]);
for (const who of new Set(views.map((v) => v.who))) if (who) cookies.set(who, await signIn(served.origin, who, demoPassword));
const out: [string, number, number][] = [];
const bare: number[] = [];
for (const v of views) {
  const c = cookies.get(v.who) ?? '';
  for (let i = 0; i < 2; i++) await get(served.origin + v.path, c);
  const t: number[] = []; let size = 0;
  for (let i = 0; i < Number(process.argv[4] ?? 7); i++) { bare.push((await get(`${served.origin}/bare`, ''))[0]); const [ms, n] = await get(served.origin + v.path, c); t.push(ms); size = n; }
  out.push([v.name, median(t), size / 1024]);
}
const b = median(bare);
console.log('bare', b.toFixed(1));
for (const [n, ms, kb] of out.sort((x, y) => y[1] - x[1]).slice(0, 25)) console.log(n.padEnd(28), ms.toFixed(0).padStart(5), (ms / b).toFixed(1).padStart(6), kb.toFixed(0).padStart(6));
await served.stop();
process.exit(0);

import { gzipSync } from 'node:zlib';
import { lightClient } from './client';
import { report } from './measure';
import { serveClass } from './server';

/** The scripts that a page names in its document, each once. */
const scriptsOf = (html: string): string[] => [
  ...new Set(
    [...html.matchAll(/(?:src|href)="(\/_next\/static\/[^"]+\.js)(?:\?[^"]*)?"/g)].map((match) => match[1] as string),
  ),
];

/** What must not be in the code of the taking page: editor, chart, formulas, typesetting, schema library. */
const forbidden = [/prosemirror/i, /chart\.js/i, /mathjs/i, /katex\.render|ParseError.*KaTeX/i, /ZodError/];

/**
 * taking.weight: kilobytes of scripts, compressed, that a taking page loads first. Baseline: those of a bare page of the same
 * build. `above` is what the exam itself adds.
 */
export async function takingWeight(): Promise<void> {
  const bench = await serveClass(1);
  const client = lightClient(bench.served.origin);
  const [cookie = ''] = bench.cookies;
  const started = JSON.parse(
    (await client.send('/api/attempts/start', cookie, { sittingId: bench.sittingId })).text,
  ) as {
    attemptId: string;
  };
  const weigh = async (path: string) => {
    const scripts = scriptsOf((await client.send(path, cookie)).text);
    let bytes = 0;
    const found: string[] = [];
    for (const script of scripts) {
      const { text } = await client.send(script, cookie);
      bytes += gzipSync(text, { level: 9 }).length;
      for (const one of forbidden) if (one.test(text)) found.push(String(one));
    }
    return { kilobytes: bytes / 1024, found };
  };
  const bare = await weigh('/bare');
  const taking = await weigh(`/take/${started.attemptId}`);
  client.close();
  report({
    name: 'taking.weight',
    value: taking.kilobytes,
    unit: 'kB compressed',
    baseline: bare.kilobytes,
    ratio: taking.kilobytes / bare.kilobytes,
    above: Math.round((taking.kilobytes - bare.kilobytes) * 10) / 10,
    forbidden: taking.found,
  });
  await bench.stop();
}

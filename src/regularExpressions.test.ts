import { readdirSync, readFileSync } from 'node:fs';
import { checkSync } from 'recheck';
import ts from 'typescript';
import { expect, it } from 'vitest';

/**
 * What the checker cannot decide, and why it takes no longer than its text is long. Whoever adds one writes the reason.
 */
const decidedByHand: Record<string, string> = {
  '/(?:^|[ ,;])(\\d{1,4}) ?[.):=-]? ?([a-t](?: ?[,&/] ?[a-t])*|true|false)(?=$|[ ,;.])/giu':
    'begins only at a digit behind a divider, and what may be repeated between two of them holds no digit',
  '/(?<![\\p{L}\\p{N}])[-\\u2212]?\\d+(?:[.,]\\d+)*|\\d+/gu': 'takes digits that are never given back to another part',
};

/**
 * Files whose expressions are given texts that are cut before they are looked at, so that even a square of their length is a
 * moment: lines, keys and cells of at most 1,000 signs (`longestLooked` in core/bank/bringIn/line.ts), quantities of 120.
 */
const cutBefore = ['answers', 'build', 'finishQuestion', 'keyLists', 'marker', 'pieces', 'readTable'].map(
  (name) => `src/core/bank/bringIn/${name}.ts`,
);

const sources = (readdirSync('src', { recursive: true }) as string[])
  .map((name) => `src/${name.replaceAll('\\', '/')}`)
  .filter((name) => /\.tsx?$/.test(name) && !/\.test\.|\/testing\//.test(name));

/** Every regular expression that is written as one, with where it stands. */
function* written(): Generator<{ where: string; source: string; flags: string; text: string }> {
  for (const file of sources) {
    const tree = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
    const found: ts.Node[] = [];
    const visit = (node: ts.Node) => {
      if (node.kind === ts.SyntaxKind.RegularExpressionLiteral) found.push(node);
      ts.forEachChild(node, visit);
    };
    visit(tree);
    for (const node of found) {
      const text = node.getText();
      const end = text.lastIndexOf('/');
      const line = tree.getLineAndCharacterOfPosition(node.getStart()).line + 1;
      yield { where: `${file}:${line}`, source: text.slice(1, end), flags: text.slice(end + 1), text };
    }
  }
}

it('no regular expression takes more than its text is long, whatever the text', () => {
  process.env.RECHECK_BACKEND = 'pure';
  const checked = new Map<string, string>();
  const unsafe: string[] = [];
  let count = 0;
  for (const { where, source, flags, text } of written()) {
    count += 1;
    if (text in decidedByHand || cutBefore.some((file) => where.startsWith(file))) continue;
    const status = checked.get(text) ?? checkSync(source, flags, { checker: 'automaton', timeout: 60_000 }).status;
    checked.set(text, status);
    if (status !== 'safe') unsafe.push(`${where} ${text} ${status}`);
  }
  expect(count).toBeGreaterThan(150);
  expect(unsafe).toEqual([]);
}, 300_000);

it('none is put together from pieces where the checker does not see it', () => {
  const composed = sources.filter((file) => readFileSync(file, 'utf8').includes('new RegExp('));
  // The texts of the last are cut at 60 signs before they are read, those of the others as said above.
  expect(composed).toEqual([
    ...cutBefore.filter((file) => readFileSync(file, 'utf8').includes('new RegExp(')),
    'src/core/question/types/numeric/readNumber.ts',
  ]);
});

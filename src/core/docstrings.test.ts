import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

const core = import.meta.dirname;
const files = readdirSync(core, { recursive: true, encoding: 'utf8' }).filter(
  (file) => /\.ts$/.test(file) && !/\.test\.ts$|^testing\//.test(file),
);
const source = (file: string) => readFileSync(join(core, file), 'utf8');

/** The names that a file exports without saying what they are. */
function undescribed(file: string): string[] {
  const parsed = ts.createSourceFile(file, source(file), ts.ScriptTarget.Latest, true);
  const found: string[] = [];
  parsed.forEachChild((node) => {
    const exported =
      ts.canHaveModifiers(node) && ts.getModifiers(node)?.some((one) => one.kind === ts.SyntaxKind.ExportKeyword);
    if (!exported) return;
    const comments = ts.getLeadingCommentRanges(parsed.text, node.pos) ?? [];
    if (comments.some(({ pos }) => parsed.text.startsWith('/**', pos))) return;
    const names = ts.isVariableStatement(node) ? node.declarationList.declarations : [node as ts.DeclarationStatement];
    found.push(...names.map((one) => `${file}: ${one.name?.getText() ?? '?'}`));
  });
  return found;
}

/** What an example may name besides what its file exports. */
const around = {
  zone: 'Europe/Berlin',
  ...(await exportsOf('base/rich.ts')),
  ...(await exportsOf('bank/questionFilter.ts')),
};

async function exportsOf(file: string): Promise<Record<string, unknown>> {
  return (await import(/* @vite-ignore */ join(core, file))) as Record<string, unknown>;
}

const run = (expression: string, scope: Record<string, unknown>): unknown =>
  new Function(...Object.keys(scope), `return (${expression});`)(...Object.values(scope));

const examples = files.flatMap((file) =>
  [...source(file).matchAll(/@example\s+(?:\*\s*)?(.+?) \/\/ (.+?)(?: \*\/)?$/gm)].map(
    ([, expression = '', value = '']) => ({ file, expression, value }),
  ),
);

describe('the docstrings of the core', () => {
  it('say of everything that others may use what it is', () => {
    expect(files.flatMap(undescribed)).toEqual([]);
  });

  it('hold an example wherever they begin one', () => {
    const begun = files.reduce((sum, file) => sum + source(file).split('@example').length - 1, 0);
    expect(examples.length).toBe(begun);
  });

  it.each(examples)('$file: $expression', async ({ file, expression, value }) => {
    const scope = { ...around, ...(await exportsOf(file)) };
    expect(run(expression, scope)).toEqual(run(value, scope));
  });
});

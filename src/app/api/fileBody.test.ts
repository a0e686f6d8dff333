import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { fileBody } from './fileBody';

const folder = mkdtempSync(join(tmpdir(), 'wuzzen-body-'));
const file = join(folder, 'file');
const content = Buffer.from(Array.from({ length: 200_000 }, (_, i) => i % 251));
writeFileSync(file, content);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const openOfIt = () => readdirSync('/proc/self/fd').length;

it('sends a file whole or the part that was asked for', async () => {
  const all = await new Response(fileBody(file, content.length - 1)).arrayBuffer();
  expect(Buffer.from(all).equals(content)).toBe(true);
  const part = await new Response(fileBody(file, 70_000, 65_530)).arrayBuffer();
  expect(Buffer.from(part).equals(content.subarray(65_530, 70_001))).toBe(true);
});

it('closes the file when the download is broken off', async () => {
  const before = openOfIt();
  for (let i = 0; i < 20; i++) {
    const reader = fileBody(file, content.length - 1).getReader();
    await reader.read();
    await reader.cancel();
  }
  expect(openOfIt()).toBeLessThanOrEqual(before + 1);
});

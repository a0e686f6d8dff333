import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { palette } from './palette';

it('the colours of charts and of printed pages are those of the style sheet', () => {
  const sheet = readFileSync(join(import.meta.dirname, '../../app/globals.css'), 'utf8');
  const own = new Map(
    [...sheet.matchAll(/--color-([\w-]+): (#[0-9a-f]{6});/g)].map(([, name, value]) => [name, value]),
  );
  for (const [name, value] of Object.entries(palette)) {
    const property = name.replace(/([A-Z])/g, (letter) => `-${letter.toLowerCase()}`).replace(/(\d)$/, '-$1');
    expect([property, own.get(property)]).toEqual([property, value]);
  }
});

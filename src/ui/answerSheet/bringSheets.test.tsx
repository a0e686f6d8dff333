// @vitest-environment jsdom
import '../testing/dom';
import { fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { BringSheets } from './BringSheets';

vi.mock('next/navigation', () => ({ useRouter: () => ({ push: vi.fn(), refresh: vi.fn() }) }));
afterEach(() => vi.unstubAllGlobals());

const layout = {
  id: 'KAYQUTA',
  plan: {
    version: 1 as const,
    size: 100,
    perPage: 1 as const,
    studentColumns: 0,
    rows: [{ kind: 'choice' as const, label: '1', options: ['A', 'B'], several: false }],
  },
};
const begun: string[] = [];
class NoWorker {
  constructor(from: URL) {
    begun.push(String(from));
  }
  postMessage() {}
  terminate() {}
}

function open(anonymous = false) {
  begun.length = 0;
  vi.stubGlobal('Worker', NoWorker);
  const sheets = { installation: 'HQUSE', layouts: [layout], watched: false };
  render(<BringSheets here="/sheets" sheets={sheets} reading={null} anonymous={anonymous} />);
}
/** A file that says how large it is, without being it. */
const sized = (name: string, size: number): File =>
  Object.defineProperty(new File(['%PDF-1.7'], name, { type: 'application/pdf' }), 'size', { value: size });
const choose = (...files: File[]) => fireEvent.change(screen.getByLabelText('Files to read'), { target: { files } });

it('a file of 2 GB is refused before anything of it is read, and another can be chosen', () => {
  open();
  choose(sized('whole-year.pdf', 2_000_000_000));
  expect(screen.getByRole('alert').textContent).toBe('whole-year.pdf is larger than 1 GB: divide it.');
  expect(begun).toEqual([]);
  choose(sized('one-class.pdf', 900_000_000));
  expect(screen.queryByRole('alert')).toBeNull();
  expect(begun).toHaveLength(1);
  expect(screen.getByRole('button', { name: 'Stop' })).toBeTruthy();
});

it('of an anonymous sitting answers cannot be typed: sheets are nobody’s', () => {
  open(true);
  expect(screen.queryByRole('link', { name: 'Type answers in instead' })).toBeNull();
  expect(screen.getByRole('link', { name: 'Hold them before the camera' })).toBeTruthy();
});

// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { ReviewedPage } from '@/server/answerSheet/seeReading';
import { AsidePages } from './AsidePages';

const page = (more: Partial<ReviewedPage>): ReviewedPage => ({
  id: 'second',
  source: 'scan.pdf, page 9',
  layout: 'AAAAAAA',
  page: 1,
  hasPicture: true,
  student: { userId: 'ada', name: 'Ada' },
  named: null,
  aside: 'differs',
  other: { pageId: 'first', source: 'scan.pdf, page 2', hasPicture: true, rows: ['2', '5'] },
  leftOut: false,
  rows: [{ row: 0, filled: ['A'], doubt: null }],
  settled: {},
  doubts: [],
  ...more,
});

function open(shown: ReviewedPage) {
  const done: unknown[] = [];
  render(
    <AsidePages
      pages={[shown]}
      students={[{ userId: 'bo', name: 'Bo' }]}
      typing="/here/type"
      picture={(id) => `/sheet-pictures/${id}`}
      name={(id, userId) => done.push(['name', id, userId])}
      leaveOut={(id, out) => done.push(['out', id, out])}
    />,
  );
  return { done, user: userEvent.setup() };
}

describe('a page that is put aside', () => {
  it('stands beside the one that says otherwise, and either can count', async () => {
    const { done, user } = open(page({}));
    expect(screen.getByText('Ada: two sheets say different things.')).toBeTruthy();
    expect(screen.getByText(/They differ in rows 2, 5\. The one from scan\.pdf, page 2 counts so far\./)).toBeTruthy();
    expect(screen.getAllByRole('img').map((one) => one.getAttribute('src'))).toEqual([
      '/sheet-pictures/second',
      '/sheet-pictures/first',
    ]);
    await user.click(screen.getByRole('button', { name: 'This one counts' }));
    await user.click(screen.getByRole('button', { name: 'Leave it out' }));
    await user.selectOptions(screen.getByLabelText('It is the sheet of'), 'bo');
    expect(done).toEqual([
      ['out', 'first', true],
      ['out', 'second', true],
      ['name', 'second', 'bo'],
    ]);
  });

  it('is read once more or typed in where nothing could be read on it', () => {
    open(page({ aside: 'corner-missing', other: null, rows: [], student: null }));
    expect(screen.getByText('A corner of the sheet is missing.')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'type its answers in' }).getAttribute('href')).toBe('/here/type');
    expect(screen.queryByRole('button', { name: 'This one counts' })).toBeNull();
    expect(screen.queryByLabelText('It is the sheet of')).toBeNull();
  });

  it('that somebody left out can be taken in again', async () => {
    const { done, user } = open(page({ aside: null, other: null, leftOut: true }));
    expect(screen.getByText('Ada: this page is left out.')).toBeTruthy();
    expect(screen.queryByLabelText('It is the sheet of')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Take it in again' }));
    expect(done).toEqual([['out', 'second', false]]);
  });
});

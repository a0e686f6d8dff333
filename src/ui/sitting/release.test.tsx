// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { noSelfPublish, type ReleasePlan, type SelfPublish } from '@/core/release/plan';
import { presets } from '@/core/release/presets';
import { scoreOnPublishing } from '@/core/release/visibleTo';
import { ReleaseSentences } from './ReleaseSentences';

let plan: ReleasePlan;
let self: SelfPublish;

function Held({ begin }: { begin: ReleasePlan }) {
  const [held, setHeld] = useState(begin);
  const [publishing, setPublishing] = useState<SelfPublish>(noSelfPublish);
  plan = held;
  self = publishing;
  return (
    <ReleaseSentences
      plan={held}
      self={publishing}
      completion={null}
      now={0}
      zone="UTC"
      problem={null}
      onPlan={setHeld}
      onSelf={setPublishing}
      onCompletion={() => undefined}
    />
  );
}
const open = (begin: ReleasePlan = scoreOnPublishing) => {
  render(<Held begin={begin} />);
  return userEvent.setup();
};
const button = (name: string | RegExp) => screen.getByRole('button', { name });

describe('what students see, in sentences', () => {
  it('is taken whole from a preset', async () => {
    const user = open();
    await user.click(button('What students see: the score on publishing, nothing else'));
    await user.click(await screen.findByRole('radio', { name: 'Practice: everything on hand-in' }));
    expect(plan).toEqual(presets.find((one) => one.key === 'practice')?.plan);
  });

  it('is set fact by fact: a window, a second one, an end, and never again', async () => {
    const user = open();
    await user.click(button('Fact by fact'));
    await user.click(button('Right answers: never'));
    await user.click(await screen.findByRole('radio', { name: 'when it is over for everyone' }));
    await user.click(screen.getByRole('radio', { name: 'after some days' }));
    await user.clear(screen.getByRole('textbox', { name: 'Days' }));
    await user.type(screen.getByRole('textbox', { name: 'Days' }), '3');
    expect(screen.getByText('Right answers: when it is over for everyone, for 3 days.')).toBeTruthy();
    await user.click(button('Set'));
    expect(plan['right-answers']).toEqual([
      { begins: { kind: 'over-for-everyone' }, ends: { kind: 'after-days', days: 3 } },
    ]);
    const again = screen.getAllByRole('button', { name: 'Right answers: and again …' });
    await user.click(again[0] as HTMLElement);
    await user.click(await screen.findByRole('radio', { name: 'on hand-in' }));
    await user.click(button('Set'));
    expect(plan['right-answers']).toHaveLength(2);
    await user.click(button('Right answers: on hand-in'));
    await user.click(await screen.findByRole('button', { name: 'Do not show' }));
    expect(plan['right-answers']).toHaveLength(1);
  });

  it('takes no window that says nothing', async () => {
    const user = open();
    await user.click(button('Fact by fact'));
    await user.click(button('Score: on publishing'));
    await user.click(await screen.findByRole('radio', { name: /once seen/ }));
    const field = screen.getByRole('textbox', { name: 'Minutes' });
    await user.clear(field);
    await user.type(field, '90');
    expect(screen.getByText('From 1 to 60.')).toBeTruthy();
    await user.click(button('Set'));
    expect(plan).toEqual(scoreOnPublishing);
  });

  it('lets results publish themselves', async () => {
    const user = open();
    await user.click(button('How results are published: by you'));
    await user.click(await screen.findByRole('radio', { name: /each as soon as it is completely marked/ }));
    expect(self.kind).toBe('each');
    expect(button(/^Not published before/)).toBeTruthy();
  });
});

// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { isText, tabToNextText } from './textOrder';

const Sheet = () => (
  // biome-ignore lint/a11y/noStaticElementInteractions: as the question sheet has it
  <div onKeyDown={tabToNextText}>
    <input aria-label="Question" {...isText} />
    <input type="checkbox" aria-label="Shuffle" />
    <input aria-label="Choice A" {...isText} />
    <button type="button">Move A down</button>
    <input aria-label="Choice B" {...isText} />
    <button type="button">Move B down</button>
  </div>
);

describe('Tab in a question sheet', () => {
  it('goes from text to text, behind the last one as everywhere, and back through all there is', async () => {
    render(<Sheet />);
    const user = userEvent.setup();
    const at = () => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent;
    screen.getByLabelText('Question').focus();
    const forth: unknown[] = [];
    for (let i = 0; i < 3; i++) {
      await user.tab();
      forth.push(at());
    }
    expect(forth).toEqual(['Choice A', 'Choice B', 'Move B down']);
    const back: unknown[] = [];
    for (let i = 0; i < 5; i++) {
      await user.tab({ shift: true });
      back.push(at());
    }
    expect(back).toEqual(['Choice B', 'Move A down', 'Choice A', 'Shuffle', 'Question']);
  });
});

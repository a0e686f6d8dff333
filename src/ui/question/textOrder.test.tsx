// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { addsText, followPress, isText, tabToNextText } from './textOrder';

const at = () => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent;

function Sheet() {
  const [choices, setChoices] = useState([1, 2]);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: as the question sheet has it
    <div onKeyDown={tabToNextText} onClickCapture={followPress}>
      <input aria-label="Question" {...isText} />
      <input type="checkbox" aria-label="Shuffle" />
      {choices.map((id, i) => {
        const letter = 'ABC'[i];
        return (
          <p key={id}>
            <input aria-label={`Choice ${letter}`} {...isText} />
            <button type="button" onClick={() => setChoices(choices.filter((one) => one !== id))}>
              Remove {letter}
            </button>
          </p>
        );
      })}
      <button type="button" {...addsText} onClick={() => setChoices([...choices, choices.length + 1])}>
        Another
      </button>
    </div>
  );
}

describe('Tab in a question sheet', () => {
  it('goes from text to text, behind the last one to what adds another, and back through all there is', async () => {
    render(<Sheet />);
    const user = userEvent.setup();
    screen.getByLabelText('Question').focus();
    const forth: unknown[] = [];
    for (let i = 0; i < 3; i++) {
      await user.tab();
      forth.push(at());
    }
    expect(forth).toEqual(['Choice A', 'Choice B', 'Another']);
    const back: unknown[] = [];
    for (let i = 0; i < 6; i++) {
      await user.tab({ shift: true });
      back.push(at());
    }
    expect(back).toEqual(['Remove B', 'Choice B', 'Remove A', 'Choice A', 'Shuffle', 'Question']);
  });

  it('writes on at once in what was added, and at the text before what was removed', async () => {
    render(<Sheet />);
    const user = userEvent.setup();
    await user.click(screen.getByText('Another'));
    await vi.waitFor(() => expect(at()).toBe('Choice C'));
    await user.click(screen.getByText('Remove B'));
    // What was C stands at the place of B.
    await vi.waitFor(() => expect(at()).toBe('Choice B'));
    await user.click(screen.getByText('Remove B'));
    await vi.waitFor(() => expect(at()).toBe('Choice A'));
  });
});

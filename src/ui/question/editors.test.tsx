// @vitest-environment jsdom
import '../testing/dom';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import type { Problem } from '@/core/base/result';
import { richFromText, richText } from '@/core/base/rich';
import type { Choice } from '@/core/question/choices';
import { blankContent, type ContentOf, type QuestionContent, withoutEmptyParts } from '@/core/question/content';
import { questionTypes } from '@/core/question/types';
import { blankGap } from '@/core/question/types/gap-fill/content';
import { QuestionEditor } from './QuestionEditor';

type SheetProps = { begin: QuestionContent; problems: Problem[]; tell: (content: QuestionContent) => void };

function Sheet({ begin, problems, tell }: SheetProps) {
  const [now, setNow] = useState(begin);
  const [open, setOpen] = useState<string | null>(null);
  tell(now);
  return <QuestionEditor content={now} onChange={setNow} problems={problems} openGap={open} onOpenGap={setOpen} />;
}

/** Shows the editor of a question as its sheet does, and tells what the question has become. */
function edit<Content extends QuestionContent>(content: Content, problems: Problem[] = []) {
  let current: QuestionContent = content;
  const tell = (next: QuestionContent) => {
    current = next;
  };
  render(<Sheet begin={content} problems={problems} tell={tell} />);
  return { user: userEvent.setup(), now: () => current as Content };
}

const button = (name: string | RegExp) => screen.getByRole('button', { name });
const field = (name: string | RegExp) => screen.getByLabelText(name);
async function type(user: ReturnType<typeof userEvent.setup>, label: string, text: string) {
  await user.clear(field(label));
  if (text) await user.type(field(label), text.replace(/[{[]/g, '$&$&'));
}

const choices = (...texts: string[]) =>
  texts.map((text, i) => ({ id: `c${i}`, content: richFromText(text), right: i === 0, pinned: false }));
const choice: ContentOf<'single-choice'> = {
  type: 'single-choice',
  stem: richFromText('Which?'),
  shuffle: true,
  choices: choices('one', 'two', 'three'),
  feedback: {},
};

describe('the editor of every type', () => {
  it.each(questionTypes)('%s gives each control a name', (kind) => {
    edit(blankContent(kind));
    const controls = [...document.querySelectorAll('input, select, textarea, button, [role=textbox]')] as HTMLElement[];
    for (const control of controls) {
      const labels = (control as HTMLInputElement).labels ?? [];
      const by = control.getAttribute('aria-labelledby');
      const name =
        control.getAttribute('aria-label') ??
        (by ? document.getElementById(by)?.textContent : null) ??
        [...labels].map((label) => label.textContent).join('') ??
        '';
      expect([control.outerHTML.slice(0, 90), (name || control.textContent || '').trim()]).not.toEqual([
        expect.any(String),
        '',
      ]);
    }
  });
});

describe('a question that was just begun', () => {
  it.each(['single-choice', 'multiple-choice', 'true-false'] as const)(
    '%s has no right answer until one is marked',
    (kind) => {
      edit(blankContent(kind));
      for (const mark of document.querySelectorAll<HTMLInputElement>(
        'input[type=radio], fieldset input, li input[type=checkbox]',
      ))
        expect(mark.checked).toBe(false);
    },
  );
});

describe('choices', () => {
  const texts = (content: ContentOf<'single-choice'>) => content.choices.map((one) => richText(one.content));

  it('are marked and moved by keys from within their text', async () => {
    const { user, now } = edit(choice);
    await user.click(screen.getByRole('textbox', { name: 'Choice C' }));
    await user.keyboard('{Alt>}m{/Alt}');
    expect(now().choices.map((one) => one.right)).toEqual([false, false, true]);
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    expect(texts(now())).toEqual(['one', 'three', 'two']);
  });

  it('are marked right one at a time, moved, kept in place, added and removed', async () => {
    const { user, now } = edit(choice);
    await user.click(field('Choice C is right'));
    expect(now().choices.map((one) => one.right)).toEqual([false, false, true]);
    await user.click(button('Move choice C up'));
    expect(texts(now())).toEqual(['one', 'three', 'two']);
    expect(now().choices.map((one) => one.right)).toEqual([false, true, false]);
    await user.click(button('Keep choice A in its place'));
    expect(now().choices[0]?.pinned).toBe(true);
    await user.click(button('Add a choice'));
    await user.click(button('Remove choice B'));
    expect(texts(now())).toEqual(['one', 'two', '']);
    expect(new Set(now().choices.map((one) => one.id)).size).toBe(3);
    await user.click(field('Shuffle for each paper'));
    expect(now().shuffle).toBe(false);
  });

  it('come from lines that are pasted into an empty choice, with their letters and marks read', async () => {
    const { now } = edit({ ...choice, choices: choices('', '', '', '').map((one) => ({ ...one, right: false })) });
    const editor = await screen.findByRole('textbox', { name: 'Choice A' });
    fireEvent.paste(editor, {
      clipboardData: {
        getData: (kind: string) => (kind === 'text/plain' ? 'a) one\n*b) two\nc) three\n\nd) four\ne) five' : ''),
        types: ['text/plain'],
        files: [],
        items: [],
      },
    });
    expect(texts(now())).toEqual(['one', 'two', 'three', 'four', 'five']);
    expect(now().choices.map((one) => one.right)).toEqual([false, true, false, false, false]);
    expect(new Set(now().choices.map((one) => one.id)).size).toBe(5);
  });

  it('take no break of the line from the key that saves', async () => {
    const { user, now } = edit(choice);
    await user.click(await screen.findByRole('textbox', { name: 'Choice A' }));
    await user.keyboard('{Control>}{Enter}{/Control}');
    expect(texts(now())).toEqual(['one', 'two', 'three']);
  });

  it('need no touch of those that were left empty at the end', () => {
    const [one, two, three, four] = choices('one', 'two', '', '') as [Choice, Choice, Choice, Choice];
    const left = (...some: Choice[]) => texts(withoutEmptyParts({ ...choice, choices: some }) as typeof choice);
    expect(left(one, two, three, four)).toEqual(['one', 'two']);
    expect(left(one, three, two, four)).toEqual(['one', '', 'two']);
    expect(left(one, three)).toEqual(['one', '']);
    expect(left(one, two, { ...three, right: true })).toEqual(['one', 'two', '']);
  });

  it('are at most 20, and the button says why', async () => {
    const { user, now } = edit({ ...choice, choices: choices(...Array.from({ length: 20 }, (_, i) => `c${i}`)) });
    await user.click(button(/Add a choice/));
    expect(now().choices).toHaveLength(20);
    expect(button(/Add a choice/)).toHaveProperty('title', 'A choice question takes at most 20 choices.');
  });

  it('are at least 2', async () => {
    const { user, now } = edit({ ...choice, choices: choices('a', 'b', 'c') });
    await user.click(button('Remove choice B'));
    expect(texts(now())).toEqual(['a', 'c']);
    expect(button('Remove choice B')).toHaveProperty('disabled', true);
  });

  it('several can be right where several are asked for, and one rule of credit holds', async () => {
    const { user, now } = edit({ ...choice, type: 'multiple-choice', rule: 'all-or-nothing' });
    await user.click(field('Choice B is right'));
    expect(now().choices.map((one) => one.right)).toEqual([true, true, false]);
    await user.selectOptions(screen.getByRole('combobox', { name: 'Credit' }), 'wrong-cancels-right');
    expect(now().rule).toBe('wrong-cancels-right');
  });

  it('show a problem at the choice it is about', () => {
    edit(choice, [{ code: 'bad-input', field: 'content.choices.1.content', message: 'Write the choice.' }]);
    const editors = [...document.querySelectorAll('li')];
    expect(editors.map((one) => one.textContent?.includes('Write the choice.'))).toEqual([false, true, false]);
  });
});

describe('accepted texts', () => {
  const short: ContentOf<'short-text'> = {
    ...(blankContent('short-text') as ContentOf<'short-text'>),
    accepted: [{ text: 'ebb', credit: 1 }],
  };

  it('are tried as a student would type, and the rule that matched is named', async () => {
    const { user, now } = edit(short);
    await type(user, 'Try an answer', 'EBB ');
    expect(document.body.textContent).toContain(
      '100 %: “ebb”, when case, accents, spaces and punctuation do not count.',
    );
    await user.click(button('Accept another answer'));
    await type(user, 'Answer 2', 'falling tide');
    expect(now().accepted.map((one) => one.text)).toEqual(['ebb', 'falling tide']);
    await user.clear(field('Try an answer'));
    await user.type(field('Try an answer'), 'flood');
    expect(document.body.textContent).toContain('No credit: it matches none of the answers.');
  });

  it('take another one by Enter, which is worth the same until somebody says otherwise', async () => {
    const { user, now } = edit(short);
    await user.click(field('Answer 1'));
    await user.keyboard('{Enter}falling tide');
    expect(now().accepted).toEqual([
      { text: 'ebb', credit: 1 },
      { text: 'falling tide', credit: 1 },
    ]);
  });

  it('hold no old number while a new one is not a number yet', async () => {
    const { user, now } = edit(short);
    const credit = field('Credit of answer 1 in percent');
    await user.clear(credit);
    await user.type(credit, '1/1,852');
    expect(now().accepted[0]?.credit).toBeNaN();
    expect(screen.getByText('A number, please.')).toBeTruthy();
    await user.clear(credit);
    await user.type(credit, '50');
    expect(now().accepted[0]?.credit).toBe(0.5);
  });
});

describe('values that differ from paper to paper', () => {
  const numeric = blankContent('numeric') as ContentOf<'numeric'>;
  const varied: ContentOf<'numeric'> = {
    ...numeric,
    accepted: numeric.accepted.map((one) => ({ ...one, value: '60 * d / v' })),
    variables: [
      { id: 'v0', name: 'd', source: { kind: 'range', from: 2, to: 4, step: 1 } },
      { id: 'v1', name: 'v', source: { kind: 'list', values: [4, 5] } },
      { id: 'v2', name: 't', source: { kind: 'formula', formula: 'd / v' } },
    ],
    constraints: ['v > d'],
  };

  it('keep their formulas when they get another name, also halfway through typing', async () => {
    const { user, now } = edit(varied);
    await type(user, 'Name of value 2', '');
    expect(now().accepted[0]?.value).toBe('60 * d / v');
    // "d" is taken, "t" too; the formulas wait for a name that is free.
    await user.type(field('Name of value 2'), 'd');
    expect(now().constraints).toEqual(['v > d']);
    await user.type(field('Name of value 2'), 'speed');
    expect(now()).toMatchObject({
      accepted: [{ value: '60 * d / dspeed' }],
      constraints: ['dspeed > d'],
      variables: [{ name: 'd' }, { name: 'dspeed' }, { source: { formula: 'd / dspeed' } }],
    });
  });

  it('are declared as a range, a list or a formula, and shown as samples with their answers', async () => {
    const { user, now } = edit(varied);
    const table = screen.getByRole('table');
    expect(
      within(table)
        .getAllByRole('columnheader')
        .map((one) => one.textContent),
    ).toEqual(['d', 'v', 't', 'answer']);
    // 2 and 3 go with 4; 2, 3 and 4 with 5.
    expect(document.body.textContent).toContain('5 different papers; the conditions are met by 5 of 6 combinations.');
    await user.selectOptions(field('Where v comes from'), 'range');
    expect(now().variables?.[1]?.source).toEqual({ kind: 'range', from: 1, to: 10, step: 1 });
    await type(user, 'v: to', '2,5');
    // On the way to 0.5 the step is 0 for a moment: the page must not look for an end that never comes.
    await type(user, 'v: step', '0.5');
    expect(now().variables?.[1]?.source).toEqual({ kind: 'range', from: 1, to: 2.5, step: 0.5 });
    await user.click(button('Remove t'));
    await user.click(button('Remove condition 1'));
    expect(now()).toMatchObject({ variables: [{ name: 'd' }, { name: 'v' }], constraints: [] });
  });

  it('say what is wrong with them while they are written', async () => {
    const { user } = edit(varied);
    await type(user, 'Condition 1', 'v > 100');
    expect(document.body.textContent).toContain('the conditions are met by 0 of 6 combinations');
    await type(user, 'Condition 1', 'v >');
    expect(document.body.textContent).toContain(
      'Sample papers stand here once every value and every formula can be read.',
    );
  });
});

describe('matching and ordering', () => {
  it('pairs and options that belong to nothing come and go', async () => {
    const { user, now } = edit(blankContent('matching') as ContentOf<'matching'>);
    const before = now().pairs.length;
    await user.click(button('Another pair'));
    await type(user, 'What belongs to prompt 1', 'green');
    await user.click(button('An option that belongs to nothing'));
    await type(user, 'Extra option 1', 'yellow');
    expect(now()).toMatchObject({ pairs: [{ answer: 'green' }, ...now().pairs.slice(1)], extras: ['yellow'] });
    expect(now().pairs).toHaveLength(before + 1);
    await user.click(button('Remove extra option 1'));
    expect(now().extras).toEqual([]);
    await user.selectOptions(field('Credit'), 'all-or-nothing');
    expect(now().rule).toBe('all-or-nothing');
  });

  it('items move by buttons and keep at least two', async () => {
    const ordering = blankContent('ordering') as ContentOf<'ordering'>;
    const items = ['first', 'second', 'third'].map((text, i) => ({ id: `i${i}`, content: richFromText(text) }));
    const { user, now } = edit({ ...ordering, items });
    await user.click(button(/^Move item 3 up/));
    expect(now().items.map((one) => one.id)).toEqual(['i0', 'i2', 'i1']);
    await user.click(button('Remove item 1'));
    expect(now().items.map((one) => richText(one.content))).toEqual(['third', 'second']);
    expect(button('Remove item 1')).toHaveProperty('disabled', true);
  });
});

describe('a rubric', () => {
  it('weighs its criteria, and a level earns its share', async () => {
    const { user, now } = edit(blankContent('written') as ContentOf<'written'>);
    await user.click(button(/rubric/i));
    await type(user, 'Criterion 1', 'Reasons');
    await user.click(button('Another criterion'));
    await type(user, 'Weight of criterion 2', '3');
    expect(document.body.textContent).toContain('25 %');
    expect(document.body.textContent).toContain('75 %');
    const [percent] = screen.getAllByLabelText('Percent that level 2 earns');
    await user.clear(percent as HTMLElement);
    await user.type(percent as HTMLElement, '40');
    expect(now().rubric?.criteria).toMatchObject([
      { name: 'Reasons', weight: 1, levels: [{ share: 0 }, { share: 0.4 }, { share: 1 }] },
      { weight: 3 },
    ]);
    await user.click(button('Remove criterion 2'));
    await user.click(button('Remove criterion 1'));
    expect(now().rubric).toBeUndefined();
  });
});

describe('gaps', () => {
  const gapFill: ContentOf<'gap-fill'> = {
    ...(blankContent('gap-fill') as ContentOf<'gap-fill'>),
    stem: {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'It ' },
            { type: 'gap', attrs: { id: 'g1' } },
            { type: 'text', text: 's.' },
          ],
        },
      ],
    },
    gaps: [blankGap('g1', 'text', 'ebb')],
  };

  it('are kept as they stand in the text, whatever the order in which they were made', () => {
    const gap = (id: string) => ({ type: 'gap' as const, attrs: { id } });
    const paragraph = {
      type: 'paragraph' as const,
      content: [gap('g1'), { type: 'text' as const, text: ', ' }, gap('g0')],
    };
    const made: ContentOf<'gap-fill'> = {
      ...gapFill,
      stem: { type: 'doc', content: [paragraph] },
      gaps: [blankGap('g0', 'text', 'made first'), blankGap('g1', 'text', 'stands first')],
    };
    expect(withoutEmptyParts(made)).toMatchObject({ gaps: [{ id: 'g1' }, { id: 'g0' }] });
  });

  it('become a list with the right answer kept, take options, and a weight', async () => {
    const { user, now } = edit(gapFill);
    await user.click(button(/ebb/));
    await user.selectOptions(field('The student'), 'pick');
    await type(user, 'Weight', '2.5');
    await type(user, 'Option 2', 'flood');
    await user.click(button('Add an option'));
    await type(user, 'Option 3', 'stand');
    await user.selectOptions(field('Shown as'), 'row');
    const [gap] = now().gaps;
    expect(gap).toMatchObject({ kind: 'pick', weight: 2.5, look: 'row', shuffle: false });
    if (gap?.kind !== 'pick') throw new Error('It is a pick now.');
    expect(gap.options.map((one) => [richText(one.content), one.right])).toEqual([
      ['ebb', true],
      ['flood', false],
      ['stand', false],
    ]);
    await user.click(field('Option 3 is right'));
    expect(now().gaps[0]).toMatchObject({ options: [{ right: false }, { right: false }, { right: true }] });
  });
});

describe('tools of a text', () => {
  const choice = blankContent('single-choice') as ContentOf<'single-choice'>;
  const text = () => field('Choice A');

  it('are reached by Alt+F10, walked by the arrows, and left by Escape', async () => {
    const { user } = edit(choice);
    text().focus();
    await screen.findByRole('toolbar', { name: 'Form of choice a' });
    await user.keyboard('{Alt>}{F10}{/Alt}');
    const at = () => document.activeElement?.getAttribute('aria-label');
    expect(at()).toBe('Bold');
    await user.keyboard('{ArrowRight}');
    expect(at()).toBe('Italic');
    await user.keyboard('{ArrowLeft}{ArrowLeft}');
    expect(at()).toBe('Link');
    await user.keyboard('{Escape}');
    await vi.waitFor(() => expect(document.activeElement).toBe(text()));
  });

  it('make a formula, a table and a link by keys alone', async () => {
    const { user, now } = edit(choice);
    text().focus();
    await user.keyboard('{Alt>}[KeyX]{/Alt}');
    await user.type(await screen.findByLabelText(/Formula in TeX/), 'x^2{Enter}');
    const written = () => JSON.stringify(now().choices[0]?.content);
    expect(written()).toContain('"tex":"x^2"');
    await vi.waitFor(() => expect(document.activeElement).toBe(text()));
    await user.keyboard('{Control>}k{/Control}');
    const address = await screen.findByLabelText('Address of the link');
    await user.type(address, 'javascript:alert(1){Enter}');
    expect(screen.getByText(/An address begins with/)).toBeTruthy();
    expect(written()).not.toContain('javascript');
    await user.clear(address);
    await user.type(address, 'https://school.example/tides{Enter}');
    expect(written()).toContain('{"type":"link","attrs":{"href":"https://school.example/tides"}}');
    text().focus();
    await user.keyboard('{Alt>}[KeyT]{/Alt}');
    expect(written()).toContain('"type":"table"');
    await user.click(await screen.findByRole('button', { name: 'Remove table' }));
    expect(written()).not.toContain('"type":"table"');
  });
});

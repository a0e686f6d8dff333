import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { type QuestionSign, signText } from '@/core/attempt/paperRuler';
import { richFromText } from '@/core/base/rich';
import { hour } from '@/core/base/time';
import { Button } from './Button';
import { TextField } from './Field';
import { numberIn } from './numberIn';
import { PaperRuler } from './PaperRuler';
import { Problems, problemAt, problemsBesides } from './Problems';
import { RichText } from './RichText';
import { Timeline } from './Timeline';

const sign = (number: number, change: Partial<QuestionSign> = {}): QuestionSign => ({
  number,
  partTitle: 'Part A',
  answered: false,
  ...change,
});
const count = (markup: string, what: RegExp) => markup.match(what)?.length ?? 0;

describe('a number as people type it', () => {
  it('takes a point or a comma, and whatever looks like a minus', () => {
    expect(['-0.5', '−0,5', '– 0,5', ' 7 ', '', '5−2', 'x'].map(numberIn)).toEqual([
      -0.5,
      -0.5,
      -0.5,
      7,
      Number.NaN,
      Number.NaN,
      Number.NaN,
    ]);
  });
});

describe('the paper ruler', () => {
  it('draws a sign for each question, in parts, with a number at the first and every fifth', () => {
    const signs = Array.from({ length: 12 }, (_, i) => sign(i + 1, { partTitle: i < 7 ? 'Charts' : 'Tides' }));
    const markup = renderToStaticMarkup(<PaperRuler signs={signs} label="Paper" />);
    expect(count(markup, /<svg/g)).toBe(12);
    expect([...markup.matchAll(/text-center">(\d+)</g)].map((match) => match[1])).toEqual(['1', '5', '10']);
    expect(markup).toContain('Charts');
    expect(markup).toContain('Tides');
  });

  it('says with the form of a sign what is known: hook, caret, cross-bar, filled and hollow head', () => {
    const drawn = (change: Partial<QuestionSign>) =>
      renderToStaticMarkup(<PaperRuler signs={[sign(1, change)]} label="Paper" />);
    const top = (markup: string) => Number(/y2="([\d.]+)"/.exec(markup)?.[1]);
    expect(top(drawn({ answered: true }))).toBeLessThan(top(drawn({})));
    expect(count(drawn({ comeBack: true }), /<path/g)).toBe(1);
    expect(count(drawn({ current: true }), /<path/g)).toBe(1);
    expect(count(drawn({ awaitsMark: true, answered: true }), /<line/g)).toBe(2);
    expect(drawn({ answered: true, outcome: 'right' })).toContain('fill-pine');
    expect(drawn({ answered: true, outcome: 'wrong' })).toContain('fill-sheet');
    expect(count(drawn({ answered: true, outcome: 'partly' }), /<path/g)).toBe(1);
  });

  it('can be walked where it leads somewhere: one stop for the tab key, a name for each sign', () => {
    const signs = [sign(1, { answered: true }), sign(2, { current: true }), sign(3, { comeBack: true })];
    const markup = renderToStaticMarkup(<PaperRuler signs={signs} label="Your paper" onPick={() => undefined} />);
    expect(count(markup, /tabindex="0"/g)).toBe(1);
    expect(count(markup, /tabindex="-1"/g)).toBe(2);
    for (const one of signs) expect(markup).toContain(`title="${signText(one)}"`);
    expect(markup).toContain('aria-current="true"');
  });

  it('is one picture with a summary where it leads nowhere', () => {
    const signs = [
      sign(1, { answered: true, outcome: 'right' }),
      sign(2, { answered: true, awaitsMark: true }),
      sign(3),
    ];
    const markup = renderToStaticMarkup(<PaperRuler size="line" signs={signs} label="Paper of Ada" />);
    expect(markup).toContain('role="img"');
    expect(markup).toContain('aria-label="Paper of Ada: 2 of 3 answered, 1 right, 1 waiting for a mark"');
    expect(count(markup, /<button/g)).toBe(0);
  });

  it('puts a sign into words', () => {
    expect(signText(sign(4, { answered: true, comeBack: true, current: true }))).toBe(
      'Question 4: answered, to come back to, here now',
    );
    expect(signText(sign(5, { answered: true, outcome: 'partly' }))).toBe('Question 5: answered, partly right');
    expect(signText(sign(6, { awaitsMark: true, answered: true }))).toBe('Question 6: answered, waits for a mark');
  });
});

describe('the timeline', () => {
  const at = (hours: number) => Date.UTC(2026, 2, 2) + hours * hour;
  const spotsOf = (markup: string) =>
    [...markup.matchAll(/flex-col [^"]*" style="left:([\d.]+)%"/g)].map((match) => Number(match[1]));

  it('orders its points and keeps their labels apart', () => {
    const points = [
      { at: at(20), label: 'closes' },
      { at: at(0), label: 'opens' },
      { at: at(19.9), label: 'due' },
    ];
    const markup = renderToStaticMarkup(<Timeline points={points} now={at(5)} zone="UTC" none="" />);
    expect(markup.indexOf('opens')).toBeLessThan(markup.indexOf('due'));
    expect(markup.indexOf('due')).toBeLessThan(markup.indexOf('closes'));
    const spots = spotsOf(markup);
    for (let i = 1; i < spots.length; i++)
      expect((spots[i] as number) - (spots[i - 1] as number)).toBeGreaterThanOrEqual(16.9);
    expect(Math.max(...spots)).toBeLessThanOrEqual(100);
  });

  it('shows times in the zone it is given; without points it says so in the same room', () => {
    const drawn = (points: { at: number; label: string }[]) =>
      renderToStaticMarkup(<Timeline points={points} now={at(0)} zone="Asia/Tokyo" none="No time yet." />);
    const [one, none] = [drawn([{ at: at(12), label: 'opens' }]), drawn([])];
    expect(one).toContain('Mon 2 Mar, 21:00');
    expect(none).toContain('No time yet.');
    expect(none.match(/h-\[\d+px\]/)?.[0]).toBe(one.match(/h-\[\d+px\]/)?.[0]);
  });
});

describe('rich text', () => {
  it('builds elements from nodes and escapes everything else', () => {
    const rich = {
      type: 'doc' as const,
      content: [
        {
          type: 'paragraph' as const,
          content: [
            {
              type: 'text' as const,
              text: '<script>x</script>',
              marks: [{ type: 'bold' as const }, { type: 'superscript' as const }],
            },
          ],
        },
        {
          type: 'bulletList' as const,
          content: [{ type: 'listItem' as const, content: richFromText('item').content }],
        },
        {
          type: 'table' as const,
          content: [
            {
              type: 'tableRow' as const,
              content: [
                { type: 'tableHeader' as const, content: richFromText('h').content },
                { type: 'tableCell' as const, content: richFromText('d').content },
              ],
            },
          ],
        },
        { type: 'codeBlock' as const, content: [{ type: 'text' as const, text: 'a < b' }] },
        {
          type: 'paragraph' as const,
          content: [
            {
              type: 'text' as const,
              text: 'link',
              marks: [{ type: 'link' as const, attrs: { href: 'https://x.example/' } }],
            },
          ],
        },
      ],
    };
    const markup = renderToStaticMarkup(<RichText rich={rich} />);
    expect(markup).toContain('<sup><strong>&lt;script&gt;x&lt;/script&gt;</strong></sup>');
    expect(markup).toContain('<ul><li><p>item</p></li></ul>');
    expect(markup).toContain('<th><p>h</p></th><td><p>d</p></td>');
    expect(markup).toContain('<code>a &lt; b</code>');
    expect(markup).toContain('href="https://x.example/" target="_blank" rel="noreferrer noopener"');
  });
});

describe('problems', () => {
  const problems = [
    { code: 'bad-input' as const, field: 'name', message: 'The name is missing.' },
    { code: 'conflict' as const, message: 'Someone else was faster.' },
  ];

  it('stand at their field, and once as a whole where no field shows them', () => {
    expect(problemAt(problems, 'name')).toBe('The name is missing.');
    expect(problemAt(problems, 'email')).toBeNull();
    expect(problemsBesides(problems, ['name'])).toEqual([problems[1]]);
    expect(renderToStaticMarkup(<Problems problems={problems} />)).toContain('role="alert"');
    expect(renderToStaticMarkup(<Problems problems={[]} />)).toBe('');
  });

  it('are tied to the input for people who hear the page', () => {
    const markup = renderToStaticMarkup(<TextField label="Name" hint="In full" problem="The name is missing." />);
    const id = /<input id="([^"]+)"/.exec(markup)?.[1];
    expect(markup).toContain(`for="${id}"`);
    expect(markup).toContain('aria-invalid="true"');
    expect(markup).toContain(`aria-describedby="${id}-hint ${id}-problem"`);
    expect(markup).toContain(`id="${id}-problem"`);
  });
});

it('a button that cannot be used says why and stays reachable', () => {
  const markup = renderToStaticMarkup(<Button whyNot="Nothing is ready.">Publish</Button>);
  expect(markup).toContain('aria-disabled="true"');
  expect(markup).toContain('title="Nothing is ready."');
  expect(markup).not.toContain(' disabled=');
});

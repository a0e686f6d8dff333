// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { readDocument } from '@/core/bank/bringIn/readDocument';
import { pastedLines, pastedTable } from './pastedLines';

/** Lines as text, with what stands out in brackets: b bold, u underlined, m marked with a colour. */
const shown = (html: string) =>
  pastedLines(html).map(({ label, runs }) =>
    [
      label ?? '',
      ...runs.map(({ text, bold, underline, marked }) => {
        const look = `${bold ? 'b' : ''}${underline ? 'u' : ''}${marked ? 'm' : ''}`;
        return look ? `[${look} ${text}]` : text;
      }),
    ]
      .filter((part) => part !== '')
      .join(' '),
  );

describe('what a word processor puts on the clipboard', () => {
  it('is read paragraph by paragraph, with what stands out', () => {
    expect(
      shown(`<p class=Normal>1. Which light?</p>
        <p>a) <b>red</b></p><p>b) <span style="font-weight:700">green</span></p>
        <p>c) <u>white</u></p><p>d) <span style="background:yellow">none</span></p>
        <p>e) <span style="background-color: rgb(255, 255, 0)">all</span></p>`),
    ).toEqual(['1. Which light?', 'a)  [b red]', 'b)  [b green]', 'c)  [u white]', 'd)  [m none]', 'e)  [m all]']);
  });

  it('knows the numbers and letters that lists give their items', () => {
    expect(
      shown(`<ol start="4"><li>Which?<ol type="a"><li>one</li><li><strong>two</strong></li></ol></li></ol>
        <ol style="list-style-type: lower-alpha"><li>three</li></ol><ul><li>four</li></ul>`),
    ).toEqual(['4. Which?', 'a) one', 'b) [b two]', 'a) three', '• four']);
  });

  it('leaves aside the wrapping that says everything is of normal weight, and styles and scripts', () => {
    expect(
      shown(`<html><head><style>p { color: red }</style><title>Doc</title></head><body>
        <b style="font-weight:normal"><p>plain<br>next <i>line</i></p></b>
        <script>document.title = 'changed'</script><p>   </p></body></html>`),
    ).toEqual(['plain', 'next  line']);
    expect(document.title).toBe('');
  });

  it('never runs what it reads', () => {
    (globalThis as { ran?: boolean }).ran = false;
    expect(
      shown('<p>1. x <img src=x onerror="globalThis.ran = true"></p><svg onload="globalThis.ran = true"></svg>'),
    ).toEqual(['1. x ', '[picture]']);
    expect((globalThis as { ran?: boolean }).ran).toBe(false);
  });

  it('becomes questions whose right choice is the one that stands out', () => {
    const { items } = readDocument(
      pastedLines(`<ol><li>Which side do you leave a red mark on, coming in (region A)?
        <ol type="A"><li>starboard</li><li><b>port</b></li><li>either</li></ol></li></ol>`),
    );
    expect(items).toMatchObject([
      {
        problems: [],
        content: { type: 'single-choice', choices: [{ right: false }, { right: true }, { right: false }] },
      },
    ]);
  });

  it('tells where a picture stood, and whose question it was', () => {
    const { items, roles } = readDocument(
      pastedLines('<p>1. Which light?</p><p><img src="data:," alt="a chart"></p><p>a) red</p><p>b) green *</p>'),
    );
    expect(items[0]?.problems).toEqual([
      { severity: 'warning', message: expect.stringContaining('Line 2 held a picture') },
    ]);
    expect(roles.map((one) => one.role)).toEqual(['question', 'unread', 'choice', 'right']);
  });

  it('is a table where its cells stand in rows, and not where a table only lays it out', () => {
    const row = (...cells: string[]) => `<tr>${cells.map((cell) => `<td><p>${cell}</p></td>`).join('')}</tr>`;
    expect(pastedTable(`<table>${row('Question', 'Answer')}${row('How many<br>cables?', '10')}</table>`)).toEqual([
      ['Question', 'Answer'],
      ['How manycables?', '10'],
    ]);
    expect(pastedTable(`<table><tr><td><table>${row('1. a')}${row('2. b')}</table></td></tr></table>`)).toBeNull();
    expect(pastedTable('<p>none</p>')).toBeNull();
  });
});

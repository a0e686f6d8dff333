// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { type Line, lineText } from '@/core/bank/bringIn/line';
import { readDocument } from '@/core/bank/bringIn/readDocument';
import { insertedLines, pastedLines, pastedTable, retypedLines } from './pastedLines';

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

describe('a text that was pasted with its form', () => {
  const bold = (text: string) => ({ runs: [{ text, bold: true }] });
  const plain = (text: string) => ({ runs: [{ text }] });
  // The same words stand out in one question and not in the other.
  const two = [
    plain('1. Which is red?'),
    bold('port'),
    plain('starboard'),
    plain('2. Which is left?'),
    plain('starboard'),
    bold('port'),
  ];
  const isBold = (lines: readonly Line[]) => lines.map((line) => line.runs.some((run) => run.bold));

  it('keeps it above and below what is typed, also where the same words stand without it', () => {
    const text = '1. Which is red?\nport\nstarboard\nstern\n2. Which is left?\nstarboard\nport';
    const lines = retypedLines(two, text);
    expect(lines.map(lineText)).toEqual(text.split('\n'));
    expect(isBold(lines)).toEqual([false, true, false, false, false, false, true]);
    expect(
      isBold(retypedLines(two, '1. Which is red?\nportside\nstarboard\n2. Which is left?\nstarboard\nport')),
    ).toEqual([false, false, false, false, false, true]);
  });

  it('keeps it when more is pasted below, above or between, and not within a line', () => {
    const text = two.map(lineText).join('\n');
    const more = [plain('3. Which is right?'), bold('starboard'), plain('port')];
    expect(isBold(insertedLines(two, text, more, '') ?? [])).toEqual([...isBold(two), ...isBold(more)]);
    expect(isBold(insertedLines(two, '', more, `\n${text}`) ?? [])).toEqual([...isBold(more), ...isBold(two)]);
    const at = text.indexOf('2. Which');
    expect(isBold(insertedLines(two, text.slice(0, at), more, `\n${text.slice(at)}`) ?? [])).toEqual([
      ...isBold(two.slice(0, 3)),
      ...isBold(more),
      ...isBold(two.slice(3)),
    ]);
    expect(insertedLines(two, text.slice(0, 5), more, text.slice(5))).toBeNull();
  });
});

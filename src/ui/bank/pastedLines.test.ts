// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { readDocument } from '@/core/bank/bringIn/readDocument';
import { pastedLines } from './pastedLines';

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
    ).toEqual(['4. Which?', 'a) one', 'b) [b two]', 'a) three', 'four']);
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
    ).toEqual(['1. x ']);
    expect((globalThis as { ran?: boolean }).ran).toBe(false);
  });

  it('becomes questions whose right choice is the one that stands out', () => {
    const read = readDocument(
      pastedLines(`<ol><li>Which side do you leave a red mark on, coming in (region A)?
        <ol type="A"><li>starboard</li><li><b>port</b></li><li>either</li></ol></li></ol>`),
    );
    expect(read).toMatchObject([
      {
        problems: [],
        content: { type: 'single-choice', choices: [{ right: false }, { right: true }, { right: false }] },
      },
    ]);
  });
});

import { html, type Layout } from './layout';

const green = 'one: Which side of a boat shows a green light? | port | *starboard | stern';
const cables = 'number: How many cables make a nautical mile? = 10';

/** What word processors, mail and web pages put on the clipboard. */
export const pasted: Layout[] = [
  html(
    'lists within lists, the right choice in bold',
    `<ol><li>Which side of a boat shows a green light?<ol type="a"><li>port</li><li><b>starboard</b></li><li>stern</li></ol></li>
     <li>How many cables make a nautical mile?<br>Answer: 10</li></ol>`,
    green,
    cables,
  ),
  html(
    'paragraphs within the items of a list',
    `<ol><li><p>Which side of a boat shows a green light?</p><ol type="a"><li><p>port</p></li><li><p><strong>starboard</strong></p></li><li><p>stern</p></li></ol></li><li><p>How many cables make a nautical mile?</p><p>Answer: 10</p></li></ol>`,
    green,
    cables,
  ),
  html(
    'one list for each question, bullets for the choices',
    `<p>1. Which side of a boat shows a green light?</p><ul><li>port</li><li><u>starboard</u></li><li>stern</li></ul><p>2. How many cables make a nautical mile?</p><p>Answer: 10</p>`,
    green,
    cables,
  ),
  html(
    'a table with a question in each row',
    `<table><tr><th>Question</th><th>A</th><th>B</th><th>C</th><th>Answer</th></tr><tr><td>Which side of a boat shows a green light?</td><td>port</td><td>starboard</td><td>stern</td><td>B</td></tr><tr><td>How many cables make a nautical mile?</td><td></td><td></td><td></td><td>10</td></tr></table>`,
    green,
    cables,
  ),
  html(
    'a table with a number, the words and the key in columns of their own',
    `<table><tr><td>1.</td><td>Which side of a boat shows a green light?</td></tr><tr><td>a)</td><td>port</td></tr><tr><td>b)</td><td>starboard *</td></tr><tr><td>c)</td><td>stern</td></tr><tr><td>2.</td><td>How many cables make a nautical mile?</td></tr><tr><td></td><td>Answer: 10</td></tr></table>`,
    green,
    cables,
  ),
  html(
    'a table within a table, as mail programs lay it out',
    `<table><tr><td><table><tr><td><p>1. Which side of a boat shows a green light?</p><p>a) port</p><p>b) starboard (correct)</p><p>c) stern</p></td></tr></table></td></tr></table>`,
    green,
  ),
  html(
    'lines broken by hand, the right choice highlighted',
    `<div>1. Which side of a boat shows a green light?<br>a) port<br><span style="background-color: yellow">b) starboard</span><br>c) stern</div>`,
    green,
  ),
  html(
    'the right choice in another colour',
    `<p>1. Which side of a boat shows a green light?</p><p>a) port</p><p><span style="color: #c00000">b) starboard</span></p><p>c) stern</p>`,
    green,
  ),
  html(
    'headings, a picture and unnumbered questions',
    `<h2>Lights</h2><p>Which side of a boat shows a green light?</p><p>a) port</p><p>b) starboard *</p><p>c) stern</p><p><img src="data:," alt="a chart"></p><h2>Measures</h2><p>How many cables make a nautical mile?</p><p>Answer: 10</p>`,
    green,
    cables,
  ),
  html(
    'letters of a list that begins elsewhere, and capital letters',
    `<p>1. Which side of a boat shows a green light?</p><ol style="list-style-type: upper-alpha"><li>port</li><li>starboard</li><li>stern</li></ol><p>Answer: B</p>`,
    green,
  ),
  html(
    'spaces that do not break, and marks of direction',
    `<p>1.&nbsp;&nbsp;Which side of a boat shows a green light?</p><p>&lrm;a)&nbsp;port</p><p>b)&nbsp;<b>starboard</b></p><p>c)&nbsp;stern</p>`,
    green,
  ),
];

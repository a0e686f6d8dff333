import { csv, type Layout, sheet } from './layout';

const green = 'one: Which side of a boat shows a green light? | port | *starboard | stern';
const cables = 'number: How many cables make a nautical mile? = 10';

/** Tables of spreadsheets, in the encodings and with the signs that spreadsheets write. */
export const tables: Layout[] = [
  csv(
    'commas, headings, a letter as the key',
    'Question,A,B,C,Answer\nWhich side of a boat shows a green light?,port,starboard,stern,B\nHow many cables make a nautical mile?,,,,10\n',
    'utf-8',
    green,
    cables,
  ),
  csv(
    'semicolons and the signs of an old system',
    'Question;Option A;Option B;Option C;Correct\nWhich side of a boat shows a green light?;port;starboard;stern;B\nWas heißt “Leeway”?;Abdrift;Versatz – Strom;;A\n',
    'windows-1252',
    green,
    'one: Was heißt “Leeway”? | *Abdrift | Versatz – Strom',
  ),
  csv(
    'tabs in two bytes a sign',
    'Question\tA\tB\tC\tAnswer\nWhich side of a boat shows a green light?\tport\tstarboard\tstern\tB\nWas heißt Ebbe?\tlow\tebb\t\tB\n',
    'utf-16',
    green,
    'one: Was heißt Ebbe? | low | *ebb',
  ),
  csv(
    'a number for the right choice',
    'Question,Choice 1,Choice 2,Choice 3,Correct answer\nWhich side of a boat shows a green light?,port,starboard,stern,2\nWhich side is red?,port,starboard,,1\n',
    'utf-8',
    green,
    'one: Which side is red? | *port | starboard',
  ),
  csv(
    'the words of the right choice',
    'Text;Choice;Choice;Choice;Right answer\nWhich side of a boat shows a green light?;port;starboard;stern;Starboard.\n',
    'utf-8',
    green,
  ),
  csv(
    'a right choice and wrong ones',
    'Question,Correct answer,Wrong 1,Wrong 2\nWhich side of a boat shows a green light?,starboard,port,stern\n',
    'utf-8',
    'one: Which side of a boat shows a green light? | *starboard | port | stern',
  ),
  csv(
    'no headings at all',
    'Which side of a boat shows a green light?;port;starboard;stern;B\nWhich side is red?;port;starboard;stern;A\n',
    'utf-8',
    green,
    'one: Which side is red? | *port | starboard | stern',
  ),
  csv(
    'numbers of the questions before them',
    'No.,Question,A,B,C,Key\n1,Which side of a boat shows a green light?,port,starboard,stern,B\n2,How many cables make a nautical mile?,,,,10\n',
    'utf-8',
    green,
    cables,
  ),
  sheet(
    'all choices in one cell, on lines of their own',
    [
      ['Question', 'Choices', 'Answer'],
      ['Which side of a boat shows a green light?', 'a) port\nb) starboard\nc) stern', 'b'],
      ['Which side is red?', 'port; starboard', 'port'],
    ],
    green,
    'one: Which side is red? | *port | starboard',
  ),
  sheet(
    'stars in the cells',
    [
      ['Question text', 'Choice A', 'Choice B', 'Choice C', 'Points'],
      ['Which side of a boat shows a green light?', 'port', '* starboard', 'stern', '2'],
      ['Which side is red?', '*port', 'starboard', '', '1'],
    ],
    green,
    'one: Which side is red? | *port | starboard',
  ),
  sheet(
    'true and false as a spreadsheet writes them',
    [
      ['Statement', 'Answer'],
      ['The flood runs before high water.', 'true'],
      ['Slack water has the strongest stream.', 'FALSE'],
    ],
    'true: The flood runs before high water.',
    'false: Slack water has the strongest stream.',
  ),
  sheet(
    'a tolerance and a unit in the key',
    [
      ['Question', 'Answer'],
      ['How high is the tide?', '2.4 ± 0.1 m'],
    ],
    'number: How high is the tide? = 2.4 ± 0.1 m',
  ),
];

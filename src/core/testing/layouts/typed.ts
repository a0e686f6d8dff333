import { type Layout, text } from './layout';

const green = 'one: Which side of a boat shows a green light? | port | *starboard | stern';
const cables = 'number: How many cables make a nautical mile? = 10';
const both = [green, cables];

/** Texts as different hands type them. */
export const typed: Layout[] = [
  text(
    'numbers with points, letters with brackets, a star before the letter',
    `
1. Which side of a boat shows a green light?
a) port
*b) starboard
c) stern

2. How many cables make a nautical mile?
Answer: 10`,
    ...both,
  ),
  text(
    'numbers with brackets, capital letters with points, an answer line with a letter',
    `
1) Which side of a boat shows a green light?
   A. port
   B. starboard
   C. stern
   Answer: B
2) How many cables make a nautical mile?
   Answer: 10`,
    ...both,
  ),
  text(
    'the key at the end, a line for each',
    `
1. Which side of a boat shows a green light?
A) port
B) starboard
C) stern

2. How many cables make a nautical mile?

Answer key
1. B
2. 10`,
    ...both,
  ),
  text(
    'the key at the end in one line, without a heading',
    `
1. Which side is red?
a. port
b. starboard
2. Which side is green?
a. port
b. starboard
3. Which light is white?
a. masthead
b. side

1. A  2. B  3. A`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
    'one: Which light is white? | *masthead | side',
  ),
  text(
    'the key in one line with commas behind a heading',
    `
Question 1: Which side is red?
(a) port
(b) starboard
Question 2: Which side is green?
(a) port
(b) starboard

Answers: 1a, 2b`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
  ),
  text(
    'a correct answer with its letter and its words',
    `
1. Which side of a boat shows a green light?
a) port
b) starboard
c) stern
Correct answer: b) starboard
2. How many cables make a nautical mile?
Correct answer: 10`,
    ...both,
  ),
  text(
    'boxes in brackets',
    `
1. Which side of a boat shows a green light?
[ ] port
[x] starboard
[ ] stern
2. Which of these are lights of a sailing boat under way?
[x] side lights
[x] stern light
[ ] masthead light`,
    green,
    'many: Which of these are lights of a sailing boat under way? | *side lights | *stern light | masthead light',
  ),
  text(
    'the word correct in brackets behind a choice',
    `
1. Which side of a boat shows a green light?
a) port
b) starboard (correct)
c) stern`,
    green,
  ),
  text(
    'an arrow behind a choice',
    `
1. Which side of a boat shows a green light?
- port
- starboard <-- correct
- stern`,
    green,
  ),
  text(
    'all choices on the line of the question',
    `
1. Which side of a boat shows a green light? a) port b) starboard c) stern
Answer: b
2. Which side shows a red light? a) port b) starboard c) stern
Answer: a`,
    green,
    'one: Which side shows a red light? | *port | starboard | stern',
  ),
  text(
    'all choices on one line below the question',
    `
1. Which side of a boat shows a green light?
A. port    B. starboard    C. stern
Ans: B`,
    green,
  ),
  text(
    'choices in two columns',
    `
1. Which light is seen from right ahead of a power-driven vessel?
A. stern light\tC. towing light
B. masthead light\tD. anchor light
Answer: B`,
    'one: Which light is seen from right ahead of a power-driven vessel? | stern light | *masthead light | towing light | anchor light',
  ),
  text(
    'bullets and an answer with a letter',
    `
1. Which side of a boat shows a green light?
• port
• starboard
• stern
Answer: B`,
    green,
  ),
  text(
    'bullets and an answer in words',
    `
1. Which side of a boat shows a green light?
- port
- starboard
- stern
Answer: starboard`,
    green,
  ),
  text(
    'stars as bullets, and an answer',
    `
1. Which side of a boat shows a green light?
* port
* starboard
* stern
Answer: B`,
    green,
  ),
  text(
    'hyphens, with a star for the right one',
    `
1. Which side of a boat shows a green light?
- port
* starboard
- stern`,
    green,
  ),
  text(
    'choices without letters, the right one starred',
    `
1. Which side of a boat shows a green light?
port
starboard *
stern

2. How many cables make a nautical mile?
Answer: 10`,
    ...both,
  ),
  text(
    'neither numbers nor letters, questions divided by empty lines',
    `
Which side of a boat shows a green light?
port
*starboard
stern

Which side shows a red light?
*port
starboard`,
    green,
    'one: Which side shows a red light? | *port | starboard',
  ),
  text(
    'no numbers, but letters',
    `
Which side of a boat shows a green light?
a) port
b) starboard *
c) stern

Which side shows a red light?
a) port *
b) starboard`,
    green,
    'one: Which side shows a red light? | *port | starboard',
  ),
  text(
    'no numbers, answers below statements',
    `
The flood runs before high water.
Answer: True

Slack water has the strongest stream.
Answer: False`,
    'true: The flood runs before high water.',
    'false: Slack water has the strongest stream.',
  ),
  text(
    'choices with numbers of another form',
    `
1. Which side of a boat shows a green light?
1) port
2) starboard
3) stern
Answer: 2
2. Which side shows a red light?
1) port
2) starboard
Answer: 1`,
    green,
    'one: Which side shows a red light? | *port | starboard',
  ),
  text(
    'choices with roman numbers',
    `
1. Which side of a boat shows a green light?
i. port
ii. starboard
iii. stern
Answer: starboard`,
    green,
  ),
  text(
    'statements with roman numbers that the choices speak of',
    `
1. Which of these make the tide range large?
i) a new moon
ii) a full moon
iii) a half moon
a) only i
b) i and ii
c) all three
Answer: B`,
    'one: Which of these make the tide range large? / I. a new moon / II. a full moon / III. a half moon | only i | *i and ii | all three',
  ),
  text(
    'a decimal at the beginning of a line that goes on',
    `
1. A boat makes good 6 knots through the water against
1.5 knots of current. What is its speed over the ground?
a) 4.5 knots
b) 7.5 knots
Answer: A`,
    'one: A boat makes good 6 knots through the water against 1.5 knots of current. What is its speed over the ground? | *4.5 knots | 7.5 knots',
  ),
  text(
    'a time at the beginning of a line that goes on',
    `
1. High water is at
12:30 and low water six hours later. Is the stream slack at noon?
Answer: False`,
    'false: High water is at 12:30 and low water six hours later. Is the stream slack at noon?',
  ),
  text(
    'a tolerance behind a number',
    `
1. What is the height of tide, in centimetres?
Answer: 75 ± 1
2. What is the course to steer?
Answer: 118 +/- 2
3. What is the speed?
Answer: 5.5 ± 2%`,
    'number: What is the height of tide, in centimetres? = 75 ± 1',
    'number: What is the course to steer? = 118 ± 2',
    'number: What is the speed? = 5.5 ± 2 %',
  ),
  text(
    'numbers with units',
    `
1. How long is a cable?
Answer: 185.2 m
2. How deep is the water?
Answer: 3,5 m
3. What share of the range runs in the third hour?
Answer: 25 %`,
    'number: How long is a cable? = 185.2 m',
    'number: How deep is the water? = 3,5 m',
    'number: What share of the range runs in the third hour? = 25 %',
  ),
  text(
    'a range as an answer',
    `
1. How much sail is right in a gale, in per cent?
Answer: 20 to 30
2. How many hours lie between two high waters?
Answer: between 12 and 13`,
    'number: How much sail is right in a gale, in per cent? = 25 ± 5',
    'number: How many hours lie between two high waters? = 12.5 ± 0.5',
  ),
  text(
    'blanks with answers by semicolons',
    `
1. The ____ runs before high water, the ____ after it.
Answer: flood; ebb
2. There are ______ cables in a mile.
Answer: 10`,
    'gaps: The ____ runs before high water, the ____ after it. = flood; ebb',
    'gaps: There are ____ cables in a mile. = 10',
  ),
  text(
    'dots as blanks',
    `
1. The ....... runs before high water.
Answer: flood`,
    'gaps: The ____ runs before high water. = flood',
  ),
  text(
    'true or false with a verdict behind the statement',
    `
1. The flood runs before high water. (T)
2. Slack water has the strongest stream. (False)
3. Neaps come after half moon. [True]`,
    'true: The flood runs before high water.',
    'false: Slack water has the strongest stream.',
    'true: Neaps come after half moon.',
  ),
  text(
    'true or false with a letter before the number',
    `
T 1. The flood runs before high water.
F 2. Slack water has the strongest stream.`,
    'true: The flood runs before high water.',
    'false: Slack water has the strongest stream.',
  ),
  text(
    'true or false as choices',
    `
1. The flood runs before high water.
a) True
b) False
Answer: A
2. True or false: Slack water has the strongest stream.
Answer: F`,
    'true: The flood runs before high water.',
    'false: Slack water has the strongest stream.',
  ),
  text(
    'several right ones by letters',
    `
1. Which give a line of position?
a) a bearing
b) a barometer
c) a transit
d) a thermometer
Answers: A and C
2. Which are tides?
a) spring
b) neap
c) gale
Answer: AB`,
    'many: Which give a line of position? | *a bearing | a barometer | *a transit | a thermometer',
    'many: Which are tides? | *spring | *neap | gale',
  ),
  text(
    'points behind the question, and in a line of their own',
    `
1. Which side of a boat shows a green light? (2 points)
a) port
b) starboard *
c) stern
2. [1.5 marks] How many cables make a nautical mile?
Answer: 10`,
    ...both,
  ),
  text(
    'feedback below each choice and an explanation',
    `
1. Which side of a boat shows a green light?
a) port
Feedback: port is red
b) starboard *
Feedback: yes
c) stern
Explanation: see rule 21`,
    green,
  ),
  text(
    'headings between parts',
    `
Part A: lights

1. Which side of a boat shows a green light?
a) port
b) starboard *
c) stern

Part B: measures

2. How many cables make a nautical mile?
Answer: 10`,
    ...both,
  ),
  text(
    'two questions before the first number',
    `
Which side of a boat shows a green light?
a) port
*b) starboard
c) stern

1. How many cables make a nautical mile?
Answer: 10`,
    ...both,
  ),
  text(
    'spaces that do not break, marks of no width, wide signs',
    `
1.\u00a0Which side of a boat shows a green light?
a)\u00a0port
\u200bb)\u00a0starboard\u00a0*
\u200ec)\u00a0\u00a0stern
２．How many cables make a nautical mile?
Answer:\u00a010`,
    ...both,
  ),
  text(
    'choices over two lines',
    `
1. Which side of a boat shows a green light?
a) port
b) star-
board
c) stern
Answer: C`,
    'one: Which side of a boat shows a green light? | port | star-board | *stern',
  ),
  text(
    'numbers that begin anew in each part, one key for each',
    `
1. Which side is red?
a) port
b) starboard
2. Which side is green?
a) port
b) starboard
Key: 1a 2b

1. Which light is white?
a) masthead
b) side
2. Which light is red?
a) port
b) anchor
Key: 1a 2a`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
    'one: Which light is white? | *masthead | side',
    'one: Which light is red? | *port | anchor',
  ),
  text(
    'keys in two lines',
    `
1. Which side is red?
a) port
b) starboard
2. Which side is green?
a) port
b) starboard
3. Which light is white?
a) masthead
b) side

1 2 3
A B A`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
    'one: Which light is white? | *masthead | side',
  ),
  text(
    'a key for one question alone at the end',
    `
1. Which light is white? a) masthead b) side c) port
2. The flood runs before high water. (T)

Key: 1a`,
    'one: Which light is white? | *masthead | side | port',
    'true: The flood runs before high water.',
  ),
  text(
    'a key that names its question again',
    `
1. Which side is red?
a) port
b) starboard
Key: 1a
2. Which side is green?
a) port
b) starboard
Answer: 2. B`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
  ),
  text(
    'keys with hyphens',
    `
Q1. Which side is red?
A) port
B) starboard
Q2. Which side is green?
A) port
B) starboard

KEY
1-A
2-B`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
  ),
  text(
    'written questions with a model answer',
    `
1. Describe how a running fix is made.
Answer: A bearing is taken, the course and distance run are laid off, and the first line is moved along by them until it meets the second bearing.
2. Explain leeway in your own words.`,
    'written: Describe how a running fix is made.',
    'written: Explain leeway in your own words.',
  ),
  text(
    'several accepted words',
    `
1. What is a tenth of a nautical mile called?
Answer: cable; cable length
2. What is the water called that stands still?
Answer: slack`,
    'text: What is a tenth of a nautical mile called? = cable; cable length',
    'text: What is the water called that stands still? = slack',
  ),
  text(
    'a stem over several paragraphs',
    `
1. Look at the chart.

The wreck lies in the white sector. Which way is the light?
a) north
b) south
Answer: b`,
    'one: Look at the chart. / The wreck lies in the white sector. Which way is the light? | north | *south',
  ),
  text(
    'initials at the beginning of a line',
    `
1. Who sailed round the world alone first?
A. Gerbault sailed later than
J. Slocum, who wrote of it.
a) Slocum
b) Gerbault
Answer: a`,
    'one: Who sailed round the world alone first? / A. Gerbault sailed later than / J. Slocum, who wrote of it. | *Slocum | Gerbault',
  ),
  text(
    'letters with colons and with hyphens',
    `
1. Which side is red?
A: port
B: starboard
Answer: A
2. Which side is green?
a - port
b - starboard
Answer: b`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
  ),
  text(
    'ticks before the letters, and a tick without one',
    `
1. Which side is red?
✓ a) port
b) starboard
2. Which side is green?
a) port
✔ b) starboard`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
  ),
  text(
    'right-to-left text',
    `
1. איזה צד אדום?
a) שמאל
b) ימין
Answer: a`,
    'one: איזה צד אדום? | *שמאל | ימין',
  ),
  text(
    'the answer before the feedback, with empty lines everywhere',
    `
1. Which side is red?

a) port

b) starboard

Answer: A

Feedback: like wine


2. Which side is green?

a) port

b) starboard

Answer: B`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
  ),
  text(
    'a sentence as the answer line',
    `
1. Which side is red?
a) port
b) starboard
The correct answer is A.
2. Which side is green?
a) port
b) starboard
Right answer: option B`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
  ),
  text(
    'fractions and powers as answers',
    `
1. What part of the range runs in the second hour?
Answer: 1/6
2. How many metres are there in 100 kilometres?
Answer: 1e5`,
    'number: What part of the range runs in the second hour? = 1/6',
    'number: How many metres are there in 100 kilometres? = 1e5',
  ),
  text(
    'times and ordinals as answers stay words',
    `
1. When is high water?
Answer: 12:30
2. Which hour has the strongest stream?
Answer: 3rd`,
    'text: When is high water? = 12:30',
    'text: Which hour has the strongest stream? = 3rd',
  ),
  text(
    'Q and A, without numbers',
    `
Q: Which side of a boat shows a green light?
A: starboard
Q: How many cables make a nautical mile?
A: 10`,
    'text: Which side of a boat shows a green light? = starboard',
    cables,
  ),
  text(
    'a verdict alone below each statement',
    `
1. Red is to port.
T
2. Green is to port.
F`,
    'true: Red is to port.',
    'false: Green is to port.',
  ),
  text(
    'words before each part of a question, choices without letters',
    `
Question: Which side of a boat shows a green light?
Options:
port
starboard
stern
Answer: starboard

Question: How many cables make a nautical mile?
Answer: 10`,
    ...both,
  ),
  text(
    'a row for each question, divided by tabs, and the key in one line',
    `
1. Which side of a boat shows a green light?\tport\tstarboard\tstern
2. Which side is red?\tport\tstarboard
Answers: 1B 2A`,
    green,
    'one: Which side is red? | *port | starboard',
  ),
  text(
    'two stars around what stands out, the question and the right choice',
    `
**1. Which side of a boat shows a green light?**
- port
- **starboard**
- stern

**2. Which side is red?**
- **port**
- starboard`,
    green,
    'one: Which side is red? | *port | starboard',
  ),
  text(
    'a capital T or F behind each statement',
    `
1. The flood runs before high water. T
2. Red is to starboard. F`,
    'true: The flood runs before high water.',
    'false: Red is to starboard.',
  ),
  text(
    'the key behind the choices of the same line',
    `
01. Which side is red?
    A) port   B) starboard      Answer: A
02. Which side is green?
    A) port   B) starboard      Answer: B`,
    'one: Which side is red? | *port | starboard',
    'one: Which side is green? | port | *starboard',
  ),
  text(
    'a mark at every choice, right or wrong',
    `
1. Which side of a boat shows a green light?
a) port (wrong)
b) starboard (right)
c) stern (wrong)
2. Which lights are white?
a) masthead ✓
b) stern ✓
c) side ✗`,
    green,
    'many: Which lights are white? | *masthead | *stern | side',
  ),
  text(
    'points right behind the number, and round brackets as boxes',
    `
Q1 (2 points) Which side of a boat shows a green light?
( ) port
(x) starboard
( ) stern

Q2 (1 point) How many cables make a nautical mile?
Answer: 10`,
    ...both,
  ),
  text(
    'boxes behind the choices, one of them ticked',
    `
1. Which side of a boat shows a green light?
A) port [ ]
B) starboard [x]
C) stern [ ]
2. How many cables make a nautical mile?
Answer: 10`,
    ...both,
  ),
  text(
    'a key with the reason behind it',
    `
1) Which side of a boat shows a green light?
a. port
b. starboard
c. stern
Ans. b  because the rules say so
2) How many cables make a nautical mile?
Ans. 10`,
    ...both,
  ),
];

/** Texts whose key can be understood in more than one way: nothing of them may go in without a word. */
export const doubtful: Layout[] = [
  text(
    'a mark and an answer that differ',
    `
1. Which side is red?
*a) port
b) starboard
Answer: B`,
    'one: Which side is red? | *port | starboard',
  ),
  text(
    'a number that may be a thousand times as large',
    `
1. How many metres are a nautical mile?
Answer: 1,852`,
    'number: How many metres are a nautical mile? = 1852',
  ),
  text(
    'a key with the letter of one choice and the words of another',
    `
1. Which side is red?
a) port
b) starboard
Correct answer: B) port`,
    'one: Which side is red? | *port | starboard',
  ),
  text(
    'a choice that was lost',
    `
1. Which side is green?
a) port
c) starboard
d) stern
Answer: C`,
    'one: Which side is green? | port | *starboard | stern',
  ),
  text(
    'a line below the choices that is none of theirs',
    `
1. Which side is green?
a) port
b) starboard *
c) stern
1.5 metres of water stand above the rock. What is it called?`,
    'one: Which side is green? | port | *starboard | stern',
  ),
  text(
    'letters without a sign behind them',
    `
1 Which side is red
   a  port
   b  starboard
   Answer  a`,
    'one: Which side is red | *port | starboard',
  ),
  text(
    'pairs to be matched',
    `
1. Match each light with its colour
port - red
starboard - green
stern - white`,
    'written: Match each light with its colour',
  ),
  text(
    'answers in brackets behind the questions',
    `
1. What is the left side called? (port)
2. How many cables make a nautical mile? {10}`,
    'text: What is the left side called? = port',
    'number: How many cables make a nautical mile? = 10',
  ),
  text(
    'answers right behind the question marks',
    `
1. What is the left side called?  port
2. How deep was the water, in m? 3,5 ± 0,2`,
    'text: What is the left side called? = port',
    'number: How deep was the water, in m? = 3,5 ± 0,2',
  ),
];

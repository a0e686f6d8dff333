import { describe, expect, it } from 'vitest';
import { readRoster } from './readRoster';

const people = (text: string) =>
  readRoster(text).rows.map(({ line, name, email, studentNumber, section }) => [
    line,
    name,
    email,
    studentNumber,
    section,
  ]);

describe('a class list', () => {
  it('is read by the names of its columns, in any order', () => {
    expect(people('Group;E-Mail;Student\nB;ada@x.example;Ada Lund')).toEqual([
      [2, 'Ada Lund', 'ada@x.example', '', 'B'],
    ]);
  });

  it('without names of columns is told by what they hold', () => {
    expect(people('Ada Lund, ada@x.example\nBo Ek, bo@x.example')).toEqual([
      [1, 'Ada Lund', 'ada@x.example', '', ''],
      [2, 'Bo Ek', 'bo@x.example', '', ''],
    ]);
    expect(people('1001\tada@x.example\tAda Lund\tWeekday\n1002\tbo@x.example\tBo Ek\tEvening')).toEqual([
      [1, 'Ada Lund', 'ada@x.example', '1001', 'Weekday'],
      [2, 'Bo Ek', 'bo@x.example', '1002', 'Evening'],
    ]);
  });

  it('without names tells student numbers with letters from sections', () => {
    expect(people('Ada Lund, ada@x.example, S1, 7B\nBo Ek, bo@x.example, S2, 7B')).toEqual([
      [1, 'Ada Lund', 'ada@x.example', 'S1', '7B'],
      [2, 'Bo Ek', 'bo@x.example', 'S2', '7B'],
    ]);
    const list = (last: (i: number) => string, rows: number) =>
      people(Array.from({ length: rows }, (_, i) => `Ada Lund, a${i}@x.example, ${last(i)}`).join('\n'))
        .at(-1)
        ?.slice(3);
    expect(list((i) => `S${i}`, 5)).toEqual(['S4', '']);
    // What all have alike is none, also where it is a number; and one with a letter may stand first.
    expect(list((i) => `S${i}, 7B, 555`, 5)).toEqual(['S4', '7B']);
    expect(list((i) => `1, ${1000 + i}`, 5)).toEqual(['1004', '1']);
    expect(people('S1001,Ada,ada@x.example,A\nS1002,Bo,bo@x.example,A').at(0)?.slice(1)).toEqual([
      'Ada',
      'ada@x.example',
      'S1001',
      'A',
    ]);
    const words = ['Ek', 'Lund', 'Moe', 'Dahl', 'Vik'];
    expect(list((i) => words[i] ?? '', 5)).toEqual(['', '']);
    // Two students of two sections, and five of two.
    expect(list((i) => `${i}B`, 2)).toEqual(['', '1B']);
    expect(list((i) => `${i % 2}B`, 5)).toEqual(['', '0B']);
  });

  it('reads a name in two columns, named or not', () => {
    expect(people('Last name,First name,Email,Section\nMueller,Max,max@x.example,A\nLund,,ada@x.example,B')).toEqual([
      [2, 'Max Mueller', 'max@x.example', '', 'A'],
      [3, 'Lund', 'ada@x.example', '', 'B'],
    ]);
    expect(people('Surname;E-mail\nMueller;max@x.example')).toEqual([[2, 'Mueller', 'max@x.example', '', '']]);
    // A whole name in a column of its own goes before.
    expect(people('Name,First name,Email\nMax Mueller,Max,max@x.example').at(0)?.[1]).toBe('Max Mueller');
    // As they stand, where nothing says which is which.
    expect(people('Mueller,Max,max@x.example')).toEqual([[1, 'Mueller Max', 'max@x.example', '', '']]);
    expect(people('Ada,ada@x.example,Weekday\nBo,bo@x.example,Evening')).toEqual([
      [1, 'Ada', 'ada@x.example', '', 'Weekday'],
      [2, 'Bo', 'bo@x.example', '', 'Evening'],
    ]);
    const long = ['Ek', 'Lund', 'Moe', 'Dahl', 'Vik', 'Berg'].map(
      (last, i) => `${last},A${'abcdef'[i]},p${i}@x.example,100${i},${i % 2 ? 'Day' : 'Eve'}`,
    );
    expect(people(long.join('\n')).at(1)).toEqual([2, 'Lund Ab', 'p1@x.example', '1001', 'Day']);
    expect(readRoster('Phone,Email\n1,max@x.example').problem).toContain('name (or first name and last name)');
  });

  it('without emails is read as well, with student numbers or names alone', () => {
    expect(people('name,student number,section\nAda Lund,1001,A\nBo Ek,1002,')).toEqual([
      [2, 'Ada Lund', '', '1001', 'A'],
      [3, 'Bo Ek', '', '1002', ''],
    ]);
    expect(people('Ada Lund\t1001\nBo Ek\t1002\nCy Moe\t1003')).toEqual([
      [1, 'Ada Lund', '', '1001', ''],
      [2, 'Bo Ek', '', '1002', ''],
      [3, 'Cy Moe', '', '1003', ''],
    ]);
    expect(people('Ada Lund\nBo Ek')).toEqual([
      [1, 'Ada Lund', '', '', ''],
      [2, 'Bo Ek', '', '', ''],
    ]);
    const twice = readRoster('Ada Lund\nBo Ek\nAda Lund');
    expect(twice.bad).toMatchObject([{ line: 3, message: expect.stringContaining('The same name stands on line 1') }]);
    // With a number of their own, two may have one name.
    expect(readRoster('name,number\nAda Lund,1\nAda Lund,2').bad).toEqual([]);
  });

  it('knows emails by their shape, whatever their column is called', () => {
    expect(people('name,courriel\nAda Lund,ada@x.example')).toEqual([[2, 'Ada Lund', 'ada@x.example', '', '']]);
    expect(readRoster('nom;courriel\nAda Lund;ada@x.example').problem).toContain('none of them is the name');
  });

  it('keeps which part of a name is the last', () => {
    const names = (text: string, lastNameFirst?: boolean) => {
      const { rows, halves } = readRoster(text, lastNameFirst);
      return [...rows.map(({ name, lastName }) => `${name}/${lastName}`), halves];
    };
    expect(names('Last name,First name,Email\nvan Dijk,Zoë,zoe@x.example')).toEqual(['Zoë van Dijk/van Dijk', null]);
    expect(names('name,email\n"Lind, Mia",mia@x.example\nBo Ek,bo@x.example')).toEqual([
      'Mia Lind/Lind',
      'Bo Ek/',
      null,
    ]);
    expect(names('Ek, Eli\t1005\nFoss, Fia\t1006')).toEqual(['Eli Ek/Ek', 'Fia Foss/Foss', null]);
    expect(names('Ek, Eli;1005\n\nFoss, Fia;1006')).toEqual(['Eli Ek/Ek', 'Fia Foss/Foss', null]);
    // Nothing names the columns: the emails tell, or a comma with a blank; else whoever looks at it.
    expect(names('Mueller,Max,max.mueller@x.example')).toEqual(['Max Mueller/Mueller', 'last-name']);
    expect(names('Max,Mueller,max.mueller@x.example')).toEqual(['Max Mueller/Mueller', 'first-name']);
    expect(names('Mueller, Max, m1@x.example\nEk, Bo, m2@x.example')).toEqual([
      'Max Mueller/Mueller',
      'Bo Ek/Ek',
      'last-name',
    ]);
    expect(names('Mueller,Max,m1@x.example')).toEqual(['Mueller Max/Max', 'first-name']);
    expect(names('Mueller,Max,m1@x.example', true)).toEqual(['Max Mueller/Mueller', 'last-name']);
    expect(names('Mueller, Max, m1@x.example', false)).toEqual(['Mueller Max/Max', 'first-name']);
  });

  it('says which columns it does not read', () => {
    expect(readRoster('name,email,phone,section\nAda Lund,ada@x.example,555,A').unread).toEqual(['phone']);
    expect(readRoster('Ada Lund,ada@x.example,1001,A,555').unread).toEqual(['column 5']);
    expect(readRoster('name,email,phone\nAda Lund,ada@x.example,').unread).toEqual([]);
  });

  it('says on its own line what is wrong with a row, and reads the others', () => {
    const reading = readRoster('Ada Lund, ada@x.example\nBo Ek, nowhere\nAda Again, ada@x.example');
    expect(reading.rows).toHaveLength(1);
    expect(reading.bad.map(({ line, message }) => [line, message])).toEqual([
      [2, '"nowhere" is not an email address.'],
      [3, 'The same email stands on line 1.'],
    ]);
  });

  it('of which half the rows are divided otherwise still reads the others', () => {
    const reading = readRoster('Cy Ek, cy@x.example\nDi Ek; di@x.example');
    expect(reading.rows.map((row) => row.name)).toEqual(['Cy Ek']);
    expect(reading.bad.map(({ line, message }) => [line, message])).toEqual([
      [2, 'The name holds an email: this line is divided otherwise than the others.'],
    ]);
  });

  it('that names columns but lacks one says which', () => {
    expect(readRoster('email;class\nada@x.example;B').problem).toContain('none of them is the name');
  });
});

describe('a class list as a spreadsheet makes it', () => {
  it('takes commas, semicolons and tabs, columns in any order, and quoted names', () => {
    for (const text of [
      'email;Name\na@b.example;"Ä; B"',
      'Email\tName\na@b.example\tÄ; B',
      '\ufeffemail,name\na@b.example,Ä; B',
    ])
      expect(readRoster(text).rows).toMatchObject([{ name: 'Ä; B', email: 'a@b.example', line: 2 }]);
  });

  it.each([
    ['', 'The list is empty.'],
    ['name,email', 'There are no rows below the column names.'],
    [
      'section,email\nA,ada@x.example',
      'The first row names columns, and none of them is the name. Known are: name (or first name and last name), student number, email, section.',
    ],
    [
      'name,email\nJ\ufffdrgen,j@x.example',
      'The list is not readable as UTF-8 text. Save it as "CSV UTF-8" and try again.',
    ],
  ])('says what is wrong with the whole list', (text, problem) => {
    expect(readRoster(text)).toEqual({ rows: [], bad: [], halves: null, unread: [], problem });
  });

  it('says what is wrong with a row and reads the others', () => {
    const reading = readRoster(
      'name,email,student number\nAda,ada@x.example,1\n,b@x.example,2\nBo,nope,3\nCy,ADA@x.example,4\n\n"=cmd()",d@x.example,5\nEd,ed@x.example,1',
    );
    expect(reading.rows.map((row) => row.name)).toEqual(['Ada']);
    expect(reading.bad.map(({ line, message }) => `${line} ${message}`)).toEqual([
      '3 The name is missing.',
      '4 "nope" is not an email address.',
      '5 The same email stands on line 2.',
      '7 A cell holds a formula. Paste its value instead.',
      '8 The same student number stands on line 2.',
    ]);
  });

  it('of 10,000 rows is read, of 10,001 refused', () => {
    const rows = (n: number) =>
      `name,email\n${Array.from({ length: n }, (_, i) => `P${i},p${i}@x.example`).join('\n')}`;
    expect(readRoster(rows(10_000))).toMatchObject({ rows: { length: 10_000 }, bad: [], problem: null });
    expect(readRoster(rows(10_001))).toMatchObject({ rows: [], problem: expect.stringContaining('10') });
  });
});

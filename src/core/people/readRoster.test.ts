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
    expect(reading.bad.map(({ line, message }) => [line, message])).toEqual([[2, 'The email is missing.']]);
  });

  it('that names columns but lacks one says which', () => {
    expect(readRoster('name;class\nAda;B').problem).toContain('Not found: email.');
  });
});

import { expect, it } from 'vitest';
import { fill, openHouse, press, shows } from './house';

const house = openHouse({ empty: true });

it('an empty installation is set up, a course begun, a student invited, and the student comes in', async () => {
  const page = await house.page(null);
  const address = /http\S+\/set-up\/\S+/.exec(house.served.printed())?.[0] ?? '';
  await page.goto(address);
  await fill(page, 'Your name', 'Ada Teacher');
  await fill(page, 'Your email', 'ada@school.example');
  await fill(page, 'A password, at least 10 characters', 'short');
  await fill(page, 'Your first course', 'Seamanship');
  await fill(page, 'Its time zone', 'Moon/Base');
  await press(page, 'Begin');
  await shows(page, 'Choose a password of at least 10 characters.');
  await shows(page, 'This time zone is not known.');
  await fill(page, 'A password, at least 10 characters', 'long enough words');
  await fill(page, 'Its time zone', 'Europe/Oslo');
  await press(page, 'Begin');
  await shows(page, 'Add your class');

  // Every stop says what it is for while it is empty.
  for (const [stop, says] of [
    ['Banks', 'An empty bank'],
    ['Exams', 'No exams yet'],
    ['Sittings', 'No sittings yet'],
    ['Marking', 'Nothing to mark'],
    ['Gradebook', 'The gradebook is empty'],
  ] as const) {
    await press(page, stop);
    await shows(page, says);
  }

  await press(page, 'People');
  await press(page, 'Add one');
  await fill(page, 'Name', 'Bo Student');
  await fill(page, 'Email', 'bo@school.example');
  await press(page, 'Add');
  await shows(page, 'Bo Student has been added.');
  // A list without names of columns, as it is copied from anywhere.
  await press(page, 'Add a class list');
  await page.locator('textarea').click();
  await page.keyboard.type('Cy Student, cy@school.example\nDi Student; di@school.example');
  await press(page, 'Preview');
  await shows(page, '1 can be added');
  await page.locator('textarea').click();
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type('Cy Student, cy@school.example\nDi Student, di@school.example');
  await press(page, 'Preview');
  await shows(page, '2 can be added');
  await press(page, 'Add 2 students');
  await shows(page, '2 students have been added and invited.');
  await shows(page, '3 students');
  await press(page, 'Messages sent');
  // Messages go to their owners: what opens an account stands in none that others read.
  await page.locator('::-p-xpath(//summary[contains(., "Bo Student")])').click();
  await shows(page, 'only in the message itself');
  expect(await page.$eval('details[open]', (one) => one.textContent)).not.toMatch(/invitation\/[\w-]{10}/);
  // Without a mail server the addresses are handed out on slips.
  await press(page, 'People');
  await shows(page, 'not come in yet (3)');
  await press(page, 'Addresses to hand out');
  await shows(page, 'Addresses for 3 people');
  const slipOf = (name: string) =>
    page.$$eval(
      '[data-printed] li',
      (slips, whose) => {
        const slip = slips.find((one) => one.textContent?.includes(whose) && one.querySelector('svg path'));
        return slip?.querySelector('.font-mono')?.textContent ?? '';
      },
      name,
    );
  const invitation = await slipOf('Bo Student');
  await press(page, 'Close');

  const student = await house.page(null);
  await student.goto(invitation);
  await shows(student, 'Welcome, Bo Student');
  await fill(student, 'New password', 'also long enough');
  await press(student, 'Set the password and enter');
  await shows(student, 'No exams yet');
  await student.goto(invitation);
  await shows(student, 'This invitation has been used or is too old');
  await student.goto(address);
  await shows(student, 'This address has been used');

  // Signing out and in again, with a wrong password first.
  await student.goto(`${house.served.origin}/my`);
  await press(student, 'Sign out');
  await fill(student, 'Email or student number', 'bo@school.example');
  await fill(student, 'Password', 'not this one');
  await press(student, 'Sign in');
  await shows(student, 'Name and password do not belong together.');
  await fill(student, 'Password', 'also long enough');
  await press(student, 'Sign in');
  await shows(student, 'No exams yet');

  // A password of their own choice, from two machines: the other one is signed out.
  const other = await house.page(null);
  await other.goto(`${house.served.origin}/sign-in`);
  await fill(other, 'Email or student number', 'bo@school.example');
  await fill(other, 'Password', 'also long enough');
  await press(other, 'Sign in');
  await shows(other, 'No exams yet');
  await student.goto(`${house.served.origin}/account`);
  await shows(student, 'Sign out everywhere else (1 place)');
  await fill(student, 'The password you have', 'never this one');
  await fill(student, 'The new one', 'another, longer one');
  await press(student, 'Change the password');
  await shows(student, 'This is not your password.');
  await fill(student, 'The password you have', 'also long enough');
  await press(student, 'Change the password');
  await shows(student, 'Your password is changed');
  await other.goto(`${house.served.origin}/my`);
  await shows(other, 'Stay signed in: this machine is mine');

  // Forgotten after all: a new address from their row.
  await page.goto(`${house.served.origin}${new URL(page.url()).pathname}`);
  await shows(page, 'not come in yet (2)');
  await press(page, 'New address for Bo Student');
  await shows(page, 'An address for Bo Student');
  await student.goto(await slipOf('Bo Student'));
  await fill(student, 'New password', 'chosen anew by Bo');
  await press(student, 'Set the password and enter');
  await shows(student, 'No exams yet');

  // Without an email a student number is enough, and a name of one's own.
  await press(page, 'Close');
  await press(page, 'Add a class list');
  await page.locator('textarea').click();
  await page.keyboard.type('Ek, Eli\t1005\nFoss, Fia\t1006');
  await press(page, 'Preview');
  await shows(page, '2 rows have no email');
  await press(page, 'Add 2 students');
  await shows(page, 'print their addresses to hand out');
  await press(page, 'New address for Eli Ek');
  await shows(page, 'and from then on sign in as 1005');
  await student.goto(`${house.served.origin}/my`);
  await press(student, 'Sign out');
  await shows(student, 'Email or student number');
  await student.goto(await slipOf('Eli Ek'));
  await shows(student, 'You sign in as 1005');
  await fill(student, 'New password', 'chosen by Eli Ek');
  await press(student, 'Set the password and enter');
  await shows(student, 'No exams yet');
  await student.goto(`${house.served.origin}/account`);
  await fill(student, 'Another name than that', 'Eli.E');
  await press(student, 'Choose this name');
  await shows(student, 'You sign in as eli.e.');
  await press(student, 'Sign out');
  await fill(student, 'Email or student number', 'eli.e');
  await fill(student, 'Password', 'chosen by Eli Ek');
  await press(student, 'Sign in');
  await shows(student, 'No exams yet');

  // Whoever has an account becomes more than a student by their own word only.
  await press(page, 'Close');
  await press(page, 'Change Bo Student');
  await page.select('select[aria-label="Role of Bo Student"]', 'marker');
  await press(page, 'Save');
  await shows(page, 'Bo Student has been asked to be marker');
  await press(page, 'Address for Bo Student');
  await shows(page, 'An address for Bo Student');
  await student.goto(await slipOf('Bo Student'));
  await shows(student, 'asks you to be marker in Seamanship');
  await fill(student, 'Your password', 'chosen anew by Bo');
  await press(student, 'Say yes and enter');
  await shows(student, 'When answers are assigned to you for marking');

  // Who leaves is listed, and comes back.
  await press(page, 'Close');
  await press(page, 'Take out Fia Foss');
  await shows(page, 'Fia Foss is no longer in this course.');
  await page.select('select:has(option[value=former])', 'former');
  await shows(page, 'can begin nothing');
  await page.locator('button[aria-label="Bring Fia Foss back"]').click();
  await shows(page, 'Fia Foss is back in this course.');
  await page.select('select:has(option[value=former])', 'everybody');
  await page.select('select:has(option[value=last])', 'last');
  await shows(page, 'Foss, Fia');

  // A second course, and its time zone changed.
  await page.goto(`${house.served.origin}/new-course`);
  await fill(page, 'Name', 'Ropework');
  await fill(page, 'Time zone', 'Asia/Tokyo');
  await press(page, 'Begin the course');
  await shows(page, '(Asia/Tokyo)');
  await press(page, 'People');
  await press(page, 'Course and term');
  await fill(page, 'Time zone', 'UTC');
  await press(page, 'Save');
  await shows(page, '0 students');
  await press(page, 'Desk');
  await shows(page, '(UTC)');
  expect(new URL(page.url()).pathname).toMatch(/^\/c\//);
});

/** The months by their names, which nobody mistakes for a day. */
export const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** A date, `2026-11-30`, as it is said to a student: the month is a word, so that nothing hangs on the order of numbers. */
export const dateSaid = (date: string) => {
  const [year, month, day] = date.split('-').map(Number);
  return `${day} ${months[(month ?? 1) - 1]} ${year}`;
};

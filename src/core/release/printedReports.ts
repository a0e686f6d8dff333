/** The reports of a sitting's results that are printed. */
export const reportKinds = ['class', 'students', 'questions'] as const;
/** One kind of printed report. */
export type ReportKind = (typeof reportKinds)[number];

/** What a report is called, and what stands in it. */
export const reportNames: Record<ReportKind, { name: string; holds: string }> = {
  class: {
    name: 'Class sheet',
    holds: 'a line for each student with points, percent and band, and the numbers of all',
  },
  students: {
    name: 'By student',
    holds: 'a page for each student with the result and the credit of each question, without answers',
  },
  questions: { name: 'By question', holds: 'how each question did, and what was answered how often, without names' },
};

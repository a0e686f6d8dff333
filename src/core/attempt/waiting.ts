import { counted } from '../base/words';

/** What of a sitting waits for the decision of a person. */
export type Waiting = {
  /** Answers that were kept aside. */
  asides: number;
  /** The students whose answers they are. */
  asidesOf: string[];
  /** Reports on questions that nobody has answered. */
  reports: number;
  /** Incidents that are not settled. */
  incidents: number;
  /** Differences between two markers that are not settled. */
  differences: number;
  /** Pages of answer sheets that were read and are not taken over. */
  sheets: number;
};

/** Of which nothing waits. */
export const nothingWaits: Waiting = { asides: 0, asidesOf: [], reports: 0, incidents: 0, differences: 0, sheets: 0 };

/**
 * What waits for a decision, a phrase each; empty where nothing does.
 *
 * @example waitingSaid({ asides: 2, asidesOf: ['a'], reports: 0, incidents: 1, differences: 0, sheets: 0 }) // ['2 answers kept aside, of 1 student', '1 incident']
 */
export const waitingSaid = ({ asides, asidesOf, reports, incidents, differences, sheets }: Waiting): string[] => [
  ...(asides > 0 ? [`${counted(asides, 'answer')} kept aside, of ${counted(asidesOf.length, 'student')}`] : []),
  ...(reports > 0 ? [counted(reports, 'report on a question', 'reports on questions')] : []),
  ...(incidents > 0 ? [counted(incidents, 'incident')] : []),
  ...(differences > 0 ? [`${counted(differences, 'difference')} between two markers`] : []),
  ...(sheets > 0 ? [`${counted(sheets, 'page')} of answer sheets to look through`] : []),
];

/** How many decisions wait. */
export const waitingCount = ({ asides, reports, incidents, differences, sheets }: Waiting): number =>
  asides + reports + incidents + differences + sheets;

/** Everything that can happen to an attempt and leaves a row. */
const attemptEventKinds = [
  'started',
  'opened',
  'superseded-save',
  'late-save',
  'refused-save',
  'went-on',
  'checked',
  'again',
  'handed-in',
  'not-handed-in',
  'late-hand-in',
  'time-added',
  'reopened',
  'voided',
  'restored',
  'aside-taken',
  'aside-left',
  'reported',
  'matched',
] as const;
/** One kind of event in the story of an attempt. */
export type AttemptEventKind = (typeof attemptEventKinds)[number];

/** What happened, as it stands in the log of a sitting. */
export const attemptEventNames: Record<AttemptEventKind, string> = {
  started: 'started',
  opened: 'opened the paper',
  'superseded-save': 'an answer came from a window that another had replaced; kept aside',
  'late-save': 'an answer came too late; kept aside',
  'refused-save': 'an answer was not taken; kept aside',
  'went-on': 'went on to the next page',
  checked: 'checked a question',
  again: 'took a missed question again',
  'handed-in': 'handed in',
  'not-handed-in': 'not handed in within the time allowed; kept, does not count',
  'late-hand-in': 'pressed “Hand in”, which came after the time allowed for it',
  'time-added': 'was given more time',
  reopened: 'was opened again',
  voided: 'voided',
  restored: 'no longer voided',
  'aside-taken': 'an answer kept aside was taken over',
  'aside-left': 'an answer kept aside was left out',
  reported: 'reported a question',
  matched: 'was found to be whose it is, or no longer',
};

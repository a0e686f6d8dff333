/** Something in a question that its author should look at. */
export type Finding =
  /** Choices that refer to others by place while they are shuffled; `pin` are the ids of all that have to keep their places. */
  | { kind: 'refers'; choices: { id: string; text: string }[]; pin: string[] }
  | { kind: 'no-right-answer'; message: string }
  /** Pictures, sounds and videos without a text in their place: how many. */
  | { kind: 'no-alternative-text'; count: number }
  /** Credit that no answer can earn, because another rule always comes first, or limits that shut the answer out. */
  | { kind: 'unreachable'; message: string };

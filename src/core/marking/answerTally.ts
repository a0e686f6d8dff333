/** What was answered to one question, and how often. */
export type AnswerTally = {
  /** How many papers held the question. */
  asked: number;
  empty: number;
  /** Different answers with how often each was given: the most frequent first, equals by the alphabet. */
  answers: { text: string; count: number }[];
};

/**
 * Counts answers in words. The order in which they are given leaves no trace in what comes out.
 *
 * @param texts one for each paper that held the question; empty where nothing was entered
 */
export function tallyAnswers(texts: readonly string[]): AnswerTally {
  const counts = new Map<string, number>();
  for (const text of texts) if (text !== '') counts.set(text, (counts.get(text) ?? 0) + 1);
  return {
    asked: texts.length,
    empty: texts.filter((text) => text === '').length,
    answers: [...counts]
      .map(([text, count]) => ({ text, count }))
      .sort((a, b) => b.count - a.count || (a.text < b.text ? -1 : 1)),
  };
}

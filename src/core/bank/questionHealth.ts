import { type Rich, richNodes } from '../base/rich';
import { type QuestionContent, questionContent } from '../question/content';
import { definitionOf } from '../question/definitions';
import type { Finding } from '../question/finding';

/** What there is to look at in one question. */
export function findings(content: QuestionContent): Finding[] {
  const own = definitionOf(content.type).findings(content);
  const found: Finding[] = own.filter((one) => one.kind === 'refers');
  const parsed = questionContent.safeParse(content);
  if (!parsed.success)
    found.push({
      kind: 'no-right-answer',
      message: parsed.error.issues[0]?.message ?? 'This question cannot be scored.',
    });
  const missing = pictures(content).filter((alt) => alt.trim() === '').length;
  if (missing) found.push({ kind: 'no-alternative-text', count: missing });
  return [...found, ...own.filter((one) => one.kind !== 'refers')];
}

/** The alternative texts of all pictures, sounds and videos in a question. */
function pictures(content: QuestionContent): string[] {
  const found: string[] = [];
  const walk = (value: unknown): void => {
    if (Array.isArray(value)) value.forEach(walk);
    else if (typeof value === 'object' && value !== null) {
      if ((value as { type?: unknown }).type === 'doc' && Array.isArray((value as { content?: unknown }).content)) {
        for (const node of richNodes(value as Rich)) if (node.type === 'media') found.push(node.attrs.alt);
      } else Object.values(value).forEach(walk);
    }
  };
  walk(content);
  return found;
}

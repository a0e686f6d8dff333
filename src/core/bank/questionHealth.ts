import { type Rich, richNodes, richText } from '../base/rich';
import { type QuestionContent, questionContent } from '../question/content';
import { readNumber } from '../question/types/numeric/readNumber';
import { accepts } from '../question/types/numeric/score';

/** Something in a question that its author should look at. */
export type Finding =
  /** Choices that refer to others by place while they are shuffled; they can be pinned. */
  | { kind: 'refers'; choices: { id: string; text: string }[] }
  | { kind: 'no-right-answer'; message: string }
  | { kind: 'no-alternative-text'; count: number }
  | { kind: 'unreachable'; message: string };

/**
 * Words by which a choice refers to other choices. Letters count only together ("both A and C"), so that "A flag" does
 * not.
 */
const references = [
  /\b(all|none|any|both|neither|either|some|two)\s+of\s+(the\s+)?(above|below|these|them|others?|following|preceding)\b/i,
  /\b(all|none)\s+(are|is)\s+(right|correct|true|wrong|false)\b/i,
  /\b(the\s+)?(choices?|answers?|options?|statements?)\s+(above|below|[a-h]\b)/i,
  /(^|[\s(])[A-H]\)?\s*(,|\/|&|and|AND|or|OR|nor|NOR)\s*\(?[A-H](?![\w'’])/,
  /\b(above|preceding)\s+(are|is)\b/i,
];

/** Whether a choice refers to other choices. */
export const refersToOthers = (text: string): boolean => references.some((pattern) => pattern.test(text));

/** What there is to look at in one question. */
export function findings(content: QuestionContent): Finding[] {
  const found: Finding[] = [];
  if ((content.type === 'single-choice' || content.type === 'multiple-choice') && content.shuffle) {
    const choices = content.choices
      .filter((choice) => !choice.pinned && refersToOthers(richText(choice.content)))
      .map((choice) => ({ id: choice.id, text: richText(choice.content) }));
    if (choices.length) found.push({ kind: 'refers', choices });
  }
  const parsed = questionContent.safeParse(content);
  if (!parsed.success)
    found.push({
      kind: 'no-right-answer',
      message: parsed.error.issues[0]?.message ?? 'This question cannot be scored.',
    });
  const missing = pictures(content).filter((alt) => alt.trim() === '').length;
  if (missing) found.push({ kind: 'no-alternative-text', count: missing });
  found.push(...unreachable(content));
  return found;
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

/** Credit that no answer can earn, because another rule always comes first, or limits that shut the answer out. */
function unreachable(content: QuestionContent): Finding[] {
  const say = (message: string): Finding => ({ kind: 'unreachable', message });
  if (content.type === 'numeric' && !content.variables?.length) {
    return content.accepted.flatMap((one, i) => {
      const value = readNumber(one.value);
      const better = content.accepted.find(
        (other, j) =>
          j !== i && value.ok && other.credit > one.credit && accepts(other, value.value) && covers(other, one),
      );
      return better
        ? [say(`The value ${one.value} never earns its ${one.credit * 100} %: ${better.value} covers it with more.`)]
        : [];
    });
  }
  if (content.type === 'written' && content.rubric) {
    const dead = content.rubric.criteria.filter((criterion) => !criterion.levels.some((level) => level.share === 1));
    return dead.map((criterion) => say(`No level of “${criterion.name}” earns all its points.`));
  }
  return [];
}

type Accepted = Extract<QuestionContent, { type: 'numeric' }>['accepted'][number];

/** Whether everything that one value accepts lies within what another accepts. */
function covers(other: Accepted, one: Accepted): boolean {
  const value = readNumber(one.value);
  if (!value.ok) return false;
  const { kind, amount } = one.tolerance;
  const reach =
    kind === 'absolute'
      ? amount
      : kind === 'relative'
        ? amount * Math.abs(value.value)
        : Math.abs(value.value) * 10 ** -amount;
  return accepts(other, value.value - reach) && accepts(other, value.value + reach);
}

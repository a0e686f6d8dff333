import { isNarrowed, type QuestionFilter } from './questionFilter';

/** How a bank's page shows its questions, and which. */
type BankView = {
  /** One list of all that was found; otherwise the outline, in which at most one category is open. */
  flat: boolean;
  /** What is listed: in the outline the questions of the open category alone, since what lies below has rows there. */
  filter: QuestionFilter;
  /** Whether anything is listed: not while every category of the outline is closed. */
  lists: boolean;
};

/**
 * How a bank is shown to someone who asks for some of its questions. Whoever narrows them down by anything else than one
 * category, or asks for all, gets one list; everybody else the outline, with the category open that was named, or in which
 * the opened question stands.
 *
 * @param asked what was asked for; categories that the bank does not have are left out
 * @param bank its category ids, whether all questions were asked for, and the category of the question that is open
 * @example bankView(everyQuestion, { categories: ['a'], all: false, openIn: 'a' }).filter.categories // ['a']
 */
export function bankView(
  asked: QuestionFilter,
  bank: { categories: readonly string[]; all: boolean; openIn: string | null },
): BankView {
  const named = asked.categories.filter((id) => bank.categories.includes(id));
  const flat = bank.all || named.length > 1 || isNarrowed({ ...asked, categories: [] });
  const open = !flat && named.length === 0 && bank.openIn !== null ? [bank.openIn] : named;
  return { flat, filter: { ...asked, categories: open, below: flat }, lists: flat || open.length > 0 };
}

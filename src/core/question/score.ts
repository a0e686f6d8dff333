import type { Random } from '../base/random';
import { definitionOf, type QuestionContent, type QuestionResponse } from './definitions';
import type { PaperSetting, Presentation } from './presentation';
import { byHand, creditOf, type Scored } from './scored';
import { drawValues, planValues } from './variables/drawValues';
import { variationOf } from './variables/variation';
import { withValues } from './withValues';

/**
 * Fixes for one paper what may differ between papers: orders, keys and the values of variables. What a question says of
 * its labels comes before what the exam says; an exam whose choices stay as written shuffles none, whatever its questions
 * allow. Matching and ordering are always laid out by chance: their written order is their key.
 */
export function present(content: QuestionContent, random: Random, setting: PaperSetting = {}): Presentation {
  const type = definitionOf(content.type);
  const presentation = type.present(setting.choices === 'as-written' ? type.asWritten(content) : content, random);
  const labels = 'choices' in content ? (content.labels ?? setting.labels) : undefined;
  const labelled = labels === undefined ? presentation : { ...presentation, labels };
  const variation = variationOf(content);
  const values = variation.variables?.length ? drawValues(planValues(variation), random) : null;
  return values ? { ...labelled, values } : labelled;
}

/**
 * Scores a stored response. Total: any JSON gives credit in [0, 1] or the word that a person judges it. An empty
 * response earns 0 under every rule, also where a full one is marked by hand; only what is answered on paper is never
 * empty here, and always waits for a person.
 */
export function scoreResponse(content: QuestionContent, presentation: Presentation, stored: unknown): Scored {
  const type = definitionOf(content.type);
  if (type.onPaper(content)) return byHand;
  const response = type.read(stored);
  return response ? type.score(withValues(content, presentation), presentation, response) : creditOf(0);
}

/** A response that earns full credit; for written answers, the model answer. */
export const rightResponse = (content: QuestionContent, presentation: Presentation): QuestionResponse =>
  definitionOf(content.type).right(withValues(content, presentation), presentation);

/** A response in words, for markers and for export; empty where nothing was entered. */
export function responseText(content: QuestionContent, presentation: Presentation, stored: unknown): string {
  const type = definitionOf(content.type);
  const response = type.read(stored);
  return response ? type.responseText(withValues(content, presentation), presentation, response) : '';
}

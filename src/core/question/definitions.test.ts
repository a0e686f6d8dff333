import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { anyQuestion } from '../testing/anyQuestion';
import { questionContent } from './content';
import { definitionOf, definitions } from './definitions';
import { present, rightResponse, scoreResponse } from './score';
import { forStudent } from './student';
import { type QuestionType, questionTypes } from './types';

describe('the definition of a question type', () => {
  it.each(questionTypes)('%s has an example that can be saved, shown and rightly answered', (type) => {
    const definition = definitionOf(type);
    const { example } = definition;
    expect(example.type).toBe(type);
    expect(questionContent.safeParse(example).error).toBeUndefined();
    const presentation = present(example, seededRandom('example'));
    expect(forStudent(example, presentation).type).toBe(type);
    if (definition.waitsForMark(example)) return;
    const right = rightResponse(example, presentation);
    expect(definition.read(JSON.parse(JSON.stringify(right)))).toEqual(right);
    expect(scoreResponse(example, presentation, right)).toEqual({ kind: 'credit', credit: 1 });
  });

  it('says truly whether answers wait for a person', () => {
    fc.assert(
      fc.property(anyQuestion, fc.nat(), (content, seed) => {
        const definition = definitionOf(content.type);
        const presentation = present(content, seededRandom(`${seed}`));
        const right = definition.read(rightResponse(content, presentation)) ?? definition.read({ text: 'some words' });
        const scored = scoreResponse(content, presentation, right);
        expect(scored.kind === 'by-hand').toBe(definition.waitsForMark(content));
        if (scored.kind === 'by-hand') expect(definition.mayWaitForMark).toBe(true);
      }),
    );
  });

  it('leaves a question that varies in nothing the same on every paper', () => {
    fc.assert(
      fc.property(anyQuestion, fc.nat(), fc.nat(), (content, a, b) => {
        const shape = (seed: number) => {
          const { choices, lists } = present(content, seededRandom(`${seed}`));
          return JSON.stringify([choices?.map(({ id }) => id), lists && Object.values(lists).map((one) => one.length)]);
        };
        const { asWritten, drawnFrom } = definitionOf(content.type);
        if (drawnFrom(content) === null) expect(shape(a)).toBe(shape(b));
        expect(drawnFrom(asWritten(content)) === null).toBe(drawnFrom(content) === null);
      }),
    );
  });

  it('is the only place where what differs between types is decided', () => {
    const src = join(import.meta.dirname, '../..');
    const named = new RegExp(
      `\\.type\\s*[!=]==\\s*'(${questionTypes.join('|')})'|case '(${questionTypes.join('|')})':`,
    );
    // Items of a rich text and pieces of a printed sheet have types of their own; where right places crowd is a matter of single choice alone;
    // and what is worked out a second time shares nothing with what it is compared with.
    const may = [
      'core/bank/rightPlaces.ts',
      'server/gradebook/feedbackSheets.ts',
      'core/gradebook/feedbackSheet.ts',
      'server/testing/recomputed.ts',
    ];
    const found = readdirSync(src, { recursive: true, encoding: 'utf8' })
      .filter(
        (file) =>
          /\.tsx?$/.test(file) &&
          !/\.test\.|^core\/question\/types\/|^core\/testing\//.test(file) &&
          !may.includes(file),
      )
      .filter((file) => named.test(readFileSync(join(src, file), 'utf8')));
    expect(found).toEqual([]);
  });

  it('stands under the name that its content carries', () => {
    for (const type of Object.keys(definitions)) expect(definitionOf(type as QuestionType).blank().type).toBe(type);
  });
});

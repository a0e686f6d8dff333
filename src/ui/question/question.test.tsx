import fc from 'fast-check';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '@/core/base/random';
import { richFromText } from '@/core/base/rich';
import type { QuestionContent } from '@/core/question/content';
import { present, rightResponse } from '@/core/question/score';
import { forStudent, type QuestionResponse } from '@/core/question/student';
import { anyQuestion } from '@/core/testing/anyQuestion';
import { QuestionPlayer } from './QuestionPlayer';
import { QuestionReview } from './QuestionReview';
import { QuestionShown } from './QuestionShown';

const choice: QuestionContent = {
  type: 'single-choice',
  stem: richFromText('Which?'),
  shuffle: true,
  feedback: { solution: richFromText('SOLUTION') },
  choices: ['alpha', 'beta', 'gamma'].map((text, i) => ({
    id: `c${i}`,
    content: richFromText(text),
    right: i === 1,
    pinned: false,
    feedback: richFromText(`because of ${text}`),
  })),
};
const numeric: QuestionContent = {
  type: 'numeric',
  stem: richFromText('How many?'),
  feedback: {},
  accepted: [
    { value: '12.5', tolerance: { kind: 'relative', amount: 0.02 }, credit: 1 },
    { value: '10', tolerance: { kind: 'absolute', amount: 0.5 }, credit: 0.25 },
  ],
};
const written = (least: number | null, most: number | null): QuestionContent => ({
  type: 'written',
  stem: richFromText('Why?'),
  feedback: {},
  modelAnswer: richFromText('MODEL'),
  words: { least, most },
});

function played(content: QuestionContent, response?: QuestionResponse): string {
  const presentation = present(content, seededRandom('s'));
  return renderToStaticMarkup(
    <QuestionPlayer
      view={forStudent(content, presentation)}
      response={response}
      onRespond={() => undefined}
      name="slot"
    />,
  );
}

describe('what a student works with', () => {
  it('shows all choices under letters, none marked, and tells nothing of the key', () => {
    const markup = played(choice);
    for (const text of ['alpha', 'beta', 'gamma']) expect(markup).toContain(text);
    expect([...markup.matchAll(/>([A-C])<\/span>/g)].map((match) => match[1])).toEqual(['A', 'B', 'C']);
    expect(markup).not.toContain('checked=""');
    for (const secret of ['SOLUTION', 'because of', 'right', 'value="c']) expect(markup).not.toContain(secret);
  });

  it('shows the picked choice as picked', () => {
    const presentation = present(choice, seededRandom('s'));
    const right = rightResponse(choice, presentation) as { picked: string };
    expect(played(choice, right)).toMatch(
      new RegExp(`checked="" value="${right.picked}"|value="${right.picked}" checked=""`),
    );
  });

  it('echoes how a number was read, and refuses to guess', () => {
    expect(played(numeric, { text: '1,5' })).toContain('Read as 1.5');
    expect(played(numeric, { text: '1.5' })).not.toContain('Read as');
    expect(played(numeric, { text: '1.234,5' })).toContain('more than one way');
    expect(played(numeric, { text: 'twelve' })).toContain('not read as a number');
    expect(played(numeric)).not.toContain('12.5');
  });

  it('counts words against what is asked for', () => {
    expect(played(written(null, null), { text: 'one' })).toContain('1 word');
    expect(played(written(3, null), { text: 'one two' })).toContain('2 words; at least 3 are asked for');
    expect(played(written(null, 2), { text: 'one two three' })).toContain('3 words; at most 2 are asked for');
    expect(played(written(1, 4), { text: 'one two' })).toContain('2 words; between 1 and 4 are asked for');
    expect(played(written(null, 4), { text: 'one two' })).toContain('2 words of at most 4');
    expect(played(written(1, 4))).not.toContain('MODEL');
  });
});

describe('the key, for those who may see it', () => {
  it('marks the right choice in words and shows the feedback of each', () => {
    const markup = renderToStaticMarkup(
      <QuestionReview
        content={choice}
        presentation={{ choices: ['c2', 'c1', 'c0'].map((id) => ({ key: `k${id}`, id })) }}
      />,
    );
    expect(markup.indexOf('gamma')).toBeLessThan(markup.indexOf('alpha'));
    expect(markup.match(/>right</g)).toHaveLength(1);
    expect(markup).toContain('because of beta');
  });

  it('says every accepted value with its tolerance and credit', () => {
    const text = renderToStaticMarkup(<QuestionReview content={numeric} />).replace(/<[^>]+>/g, '');
    expect(text).toContain('Right: 12.5 ± 2 %');
    expect(text).toContain('Right: 10 ± 0.5 for 25 % of the points');
  });

  it('shows the model answer, or that there is none', () => {
    expect(renderToStaticMarkup(<QuestionReview content={written(null, null)} />)).toContain('MODEL');
    const none = { ...written(null, null), modelAnswer: richFromText('') } as QuestionContent;
    expect(renderToStaticMarkup(<QuestionReview content={none} />)).toContain('no model answer yet');
  });
});

describe('a question that is only read', () => {
  const shown = (content: QuestionContent, response?: QuestionResponse) =>
    renderToStaticMarkup(
      <QuestionShown view={forStudent(content, present(content, seededRandom('s')))} response={response} />,
    );

  it('has nothing in it to be pressed, whatever its type, and says what was answered', () => {
    fc.assert(
      fc.property(anyQuestion, (content) => {
        const right = rightResponse(content, present(content, seededRandom('s')));
        const [bare, answered] = [shown(content), shown(content, right ?? undefined)];
        for (const markup of [bare, answered]) expect(markup).not.toMatch(/<(?:input|select|textarea|button)|disabled/);
        if (right) expect(answered).not.toBe(bare);
      }),
    );
  });

  it('shows choices in the order of the paper with the one that was picked, and tells nothing of the key', () => {
    const presentation = present(choice, seededRandom('s'));
    const view = forStudent(choice, presentation) as Extract<ReturnType<typeof forStudent>, { type: 'single-choice' }>;
    const wrong = presentation.choices?.find((one) => one.id === 'c0')?.key ?? '';
    const markup = shown(choice, { picked: wrong });
    expect(markup).toMatch(/alpha(?:<[^>]*>)*picked/);
    expect(markup.match(/picked/g)).toHaveLength(1);
    const texts = [...markup.matchAll(/alpha|beta|gamma/g)].map((found) => found[0]);
    expect(texts).toHaveLength(view.choices.length);
    for (const secret of ['SOLUTION', 'because of', 'right']) expect(markup).not.toContain(secret);
  });

  it('shows numbers with their unit, words as they were written, and a gap with what was entered', () => {
    expect(shown(numeric, { text: '1,5', unit: 'km' })).toContain('1,5 km');
    expect(shown(written(null, null), { text: 'one two' })).toContain('one two');
    const gaps: QuestionContent = {
      type: 'gap-fill',
      stem: {
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: 'Port is ' },
              { type: 'gap', attrs: { id: 'g1' } },
            ],
          },
        ],
      },
      feedback: {},
      gaps: [
        {
          id: 'g1',
          kind: 'text',
          weight: 1,
          accepted: [{ text: 'left', credit: 1 }],
          spelling: 'exact',
          caseSensitive: false,
        } as never,
      ],
    };
    expect(shown(gaps, { gaps: { g1: 'red' } })).toMatch(/Port is .*red/);
    expect(shown(gaps)).not.toContain('left');
  });
});

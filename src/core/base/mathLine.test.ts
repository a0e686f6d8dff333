import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mathLine, withMathInLine } from './mathLine';

describe('a formula in a line of text', () => {
  it.each([
    ['\\frac{1}{2} m v^2', '1/2 m v²'],
    ['\\frac{1+2}{12}', '(1+2)/12'],
    ['\\dfrac{a}{b+c}', 'a/(b+c)'],
    ['\\sqrt{x^2 + y^2}', '√(x² + y²)'],
    ['\\sqrt[3]{8}', '³√8'],
    ['x_1^{2n}', 'x₁²ⁿ'],
    ['x^{a+b}', 'x^(a+b)'],
    ['e^{i\\pi} + 1 = 0', 'e^iπ + 1 = 0'],
    ['90^\\circ', '90°'],
    ['a \\cdot b \\leq \\infty', 'a · b ≤ ∞'],
    ['\\left( \\alpha + \\beta \\right)', '( α + β )'],
    ['\\text{speed} = 5\\,\\mathrm{kn}', 'speed = 5 kn'],
    ['\\sin \\theta', 'sin θ'],
    ['10^{-3}', '10⁻³'],
    ['50\\%', '50%'],
    ['x + 1', 'x + 1'],
    ['\\frac{1}{', '1/'],
    ['\\quad', '\\quad'],
  ])('%s is read as %s', (tex, line) => expect(mathLine(tex)).toBe(line));

  it('is never nothing where something was typed, never throws, and is as it was where it is nested without end', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('\\frac', '{', '}', '^', '_', '\\', 'x', '1', ' ', '\\sqrt', '[', ']', '\\left', '$')),
        (parts) => {
          const tex = parts.join('');
          const line = mathLine(tex);
          if (tex.trim() !== '') expect(line).not.toBe('');
        },
      ),
      { seed: 7 },
    );
    const deep = `${'\\sqrt{'.repeat(200)}x${'}'.repeat(200)}`;
    expect(mathLine(deep)).toBe(deep);
  });

  it('stands in the place of the formula, wherever in some content it was', () => {
    const content = {
      stem: {
        type: 'doc',
        content: [{ type: 'paragraph', content: [{ type: 'math', attrs: { tex: 'x^2', display: false } }] }],
      },
      other: [1, null, 'x'],
    };
    expect(withMathInLine(content)).toEqual({
      stem: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'x²' }] }] },
      other: [1, null, 'x'],
    });
    const plain = { stem: 'no formula' };
    expect(withMathInLine(plain)).toBe(plain);
  });
});

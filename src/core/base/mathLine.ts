/** Formulas nested deeper than this are left as they were typed. */
const deepest = 24;

/** Commands, each with what stands for it in a line of text. */
const known = (
  'alpha α beta β gamma γ delta δ epsilon ε varepsilon ε zeta ζ eta η theta θ vartheta ϑ iota ι kappa κ lambda λ mu μ nu ν xi ξ ' +
  'pi π rho ρ sigma σ tau τ upsilon υ phi φ varphi φ chi χ psi ψ omega ω Gamma Γ Delta Δ Theta Θ Lambda Λ Xi Ξ Pi Π Sigma Σ ' +
  'Phi Φ Psi Ψ Omega Ω cdot · times × div ÷ pm ± mp ∓ leq ≤ le ≤ geq ≥ ge ≥ neq ≠ ne ≠ approx ≈ sim ~ equiv ≡ propto ∝ ' +
  'infty ∞ sum Σ prod Π int ∫ partial ∂ nabla ∇ to → rightarrow → leftarrow ← Rightarrow ⇒ Leftrightarrow ⇔ mapsto ↦ in ∈ ' +
  'notin ∉ subset ⊂ subseteq ⊆ cup ∪ cap ∩ emptyset ∅ forall ∀ exists ∃ neg ¬ land ∧ lor ∨ circ ° degree ° prime ′ angle ∠ ' +
  'ldots … dots … cdots … langle ⟨ rangle ⟩ ell ℓ hbar ℏ ast * star * bullet • parallel ∥ perp ⊥ mid | vert | Vert ‖ lbrace { rbrace }'
).split(' ');
/** What stands for a command; one that is not here is left out. */
const signs: Readonly<Record<string, string>> = {
  ...Object.fromEntries(known.flatMap((word, i) => (i % 2 ? [] : [[word, known[i + 1] ?? '']]))),
  quad: ' ',
  qquad: ' ',
  space: ' ',
};
/** Names of functions are read as they are. */
const names = new Set(
  'sin cos tan cot sec csc arcsin arccos arctan sinh cosh tanh log ln lg exp lim max min gcd det mod'.split(' '),
);
const raised: Readonly<Record<string, string>> = Object.fromEntries(
  [...'0123456789+-−=()ni'].map((sign, i) => [sign, [...'⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁻⁼⁽⁾ⁿⁱ'][i] as string]),
);
const lowered: Readonly<Record<string, string>> = Object.fromEntries(
  [...'0123456789+-−=()'].map((sign, i) => [sign, [...'₀₁₂₃₄₅₆₇₈₉₊₋₋₌₍₎'][i] as string]),
);

const isOne = (text: string): boolean => /^[\p{L}\p{N}.,°%′∞]*$/u.test(text);
const wrapped = (text: string): string => (isOne(text) ? text : `(${text})`);
const script = (text: string, small: Readonly<Record<string, string>>, sign: string): string => {
  if (text === '°' || text === '′') return text;
  return [...text].every((one) => one in small)
    ? [...text].map((one) => small[one] as string).join('')
    : `${sign}${wrapped(text)}`;
};

/**
 * A formula as a line of plain text, for lists, in which it cannot be typeset: fractions with a stroke, roots with their
 * sign, digits raised and lowered. What cannot be said in a line is left as it was typed.
 *
 * @param tex mathematics in TeX
 * @example mathLine('\\frac{1}{2} m v^2') // "1/2 m v²"
 */
export function mathLine(tex: string): string {
  let at = 0;

  /** What follows a command: a group in braces, or one sign. */
  const argument = (depth: number): string => {
    while (tex[at] === ' ') at++;
    if (tex[at] === '{') {
      at++;
      return sequence('}', depth + 1).trim();
    }
    return one(depth);
  };
  const option = (depth: number): string => {
    if (tex[at] !== '[') return '';
    at++;
    return sequence(']', depth + 1).trim();
  };
  const command = (depth: number): string => {
    const name = /^[A-Za-z]+/.exec(tex.slice(at, at + 40))?.[0] ?? '';
    if (name === '') {
      const sign = tex[at++] ?? '';
      return /[{}%&#$_|]/.test(sign) ? sign : ' ';
    }
    at += name.length;
    if (/^[dt]?frac$/.test(name)) return `${wrapped(argument(depth))}/${wrapped(argument(depth))}`;
    if (name === 'sqrt') {
      const root = option(depth);
      return `${script(root, raised, '')}√${wrapped(argument(depth))}`;
    }
    if (name === 'left' || name === 'right') return '';
    if (name === 'begin' || name === 'end') {
      argument(depth);
      return ' ';
    }
    return signs[name] ?? (names.has(name) ? name : '');
  };
  const one = (depth: number): string => {
    const sign = tex[at++];
    if (sign === undefined) return '';
    if (sign === '\\') return command(depth);
    if (sign === '{') return sequence('}', depth + 1);
    if (sign === '^') return script(argument(depth), raised, '^');
    if (sign === '_') return script(argument(depth), lowered, '_');
    if (sign === '&' || sign === '~') return ' ';
    return sign === '}' || sign === '$' ? '' : sign;
  };
  const sequence = (end: string | null, depth: number): string => {
    if (depth > deepest) throw new RangeError('nested too deeply');
    let text = '';
    while (at < tex.length) {
      if (tex[at] === end) {
        at++;
        break;
      }
      text += one(depth);
    }
    return text;
  };

  try {
    return sequence(null, 0).replace(/\s+/g, ' ').trim() || tex;
  } catch {
    return tex;
  }
}

/**
 * A copy of content in which every formula is a line of plain text. Content without mathematics is given back as it is.
 *
 * @param value any plain value with rich content somewhere in it
 */
export function withMathInLine<Value>(value: Value): Value {
  if (!JSON.stringify(value)?.includes('"type":"math"')) return value;
  const walk = (part: unknown): unknown => {
    if (Array.isArray(part)) return part.map(walk);
    if (typeof part !== 'object' || part === null) return part;
    const node = part as { type?: unknown; attrs?: { tex?: unknown } };
    if (node.type === 'math' && typeof node.attrs?.tex === 'string')
      return { type: 'text', text: mathLine(node.attrs.tex) };
    return Object.fromEntries(Object.entries(part).map(([name, inner]) => [name, walk(inner)]));
  };
  return walk(value) as Value;
}

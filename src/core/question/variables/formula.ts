import { create, type FactoryFunctionMap, type MathNode, parseDependencies } from 'mathjs/number';

/** Values of variables by name; the truth of a condition is 1 or 0. */
export type Values = Readonly<Record<string, number>>;

/** A formula that has been read. */
export type Formula = {
  ok: true;
  /** The variables it needs. */
  names: string[];
  /** Its value; not finite where it has none (a division by zero, a root of a negative number). */
  value: (values: Values) => number;
};

type ReadFormula = Formula | { ok: false; message: string };

/** The most characters of a formula. */
export const longestFormula = 300;

const { parse } = create(parseDependencies as FactoryFunctionMap);

const tolerant = (a: number, b: number) => Math.abs(a - b) <= 1e-12 * Math.max(1, Math.abs(a), Math.abs(b));
const truth = (holds: boolean) => (holds ? 1 : 0);

/** The remainder with the sign of the divisor: a bearing of −10° is 350° in mod(x, 360). */
const mod = (a: number, b: number) => a - b * Math.floor(a / b);

function round(x: number, decimals = 0): number {
  const places = Math.max(0, Math.min(12, Math.trunc(decimals)));
  const shifted = Number(`${Math.abs(x).toPrecision(15)}e${places}`);
  if (!Number.isFinite(shifted)) return Math.sign(x) * (Math.round(Math.abs(x) * 10 ** places) / 10 ** places);
  return Math.sign(x) * Number(`${Math.round(shifted)}e-${places}`);
}

type Fn = { least: number; most: number; run: (...values: number[]) => number };
const fn = (least: number, most: number, run: (...values: number[]) => number): Fn => ({ least, most, run });

/** Every function a formula may call. Angles are in radians; `rad` and `deg` convert. */
const functions = new Map<string, Fn>([
  ['abs', fn(1, 1, Math.abs)],
  ['sqrt', fn(1, 1, Math.sqrt)],
  ['cbrt', fn(1, 1, Math.cbrt)],
  ['exp', fn(1, 1, Math.exp)],
  ['ln', fn(1, 1, Math.log)],
  ['log10', fn(1, 1, Math.log10)],
  ['sin', fn(1, 1, Math.sin)],
  ['cos', fn(1, 1, Math.cos)],
  ['tan', fn(1, 1, Math.tan)],
  ['asin', fn(1, 1, Math.asin)],
  ['acos', fn(1, 1, Math.acos)],
  ['atan', fn(1, 1, Math.atan)],
  ['atan2', fn(2, 2, Math.atan2)],
  ['rad', fn(1, 1, (x) => (x * Math.PI) / 180)],
  ['deg', fn(1, 1, (x) => (x * 180) / Math.PI)],
  ['round', fn(1, 2, round)],
  ['floor', fn(1, 1, Math.floor)],
  ['ceil', fn(1, 1, Math.ceil)],
  ['sign', fn(1, 1, Math.sign)],
  ['min', fn(1, 20, Math.min)],
  ['max', fn(1, 20, Math.max)],
  ['mod', fn(2, 2, mod)],
]);

/** The names of the functions that a formula may use. */
export const functionNames = [...functions.keys()];

const constants = new Map<string, number>([
  ['pi', Math.PI],
  ['e', Math.E],
  ['true', 1],
  ['false', 0],
]);

/** Names that a variable cannot have. */
export const reservedNames = new Set([
  ...functions.keys(),
  ...constants.keys(),
  'mod',
  'and',
  'or',
  'not',
  'xor',
  'to',
  'in',
]);

const operators = new Map<string, (a: number, b: number) => number>([
  ['add', (a, b) => a + b],
  ['subtract', (a, b) => a - b],
  ['multiply', (a, b) => a * b],
  ['divide', (a, b) => a / b],
  ['pow', (a, b) => a ** b],
  ['mod', mod],
  ['smaller', (a, b) => truth(a < b && !tolerant(a, b))],
  ['larger', (a, b) => truth(a > b && !tolerant(a, b))],
  ['smallerEq', (a, b) => truth(a <= b || tolerant(a, b))],
  ['largerEq', (a, b) => truth(a >= b || tolerant(a, b))],
  ['equal', (a, b) => truth(tolerant(a, b))],
  ['unequal', (a, b) => truth(!tolerant(a, b))],
  ['and', (a, b) => truth(a !== 0 && b !== 0)],
  ['or', (a, b) => truth(a !== 0 || b !== 0)],
]);

const signs = new Map<string, (a: number) => number>([
  ['unaryMinus', (a) => -a],
  ['unaryPlus', (a) => a],
  ['not', (a) => truth(a === 0)],
]);

class Unfit extends Error {}

type Loose = MathNode & {
  type: string;
  value?: unknown;
  name?: unknown;
  fn?: unknown;
  args?: MathNode[];
  content?: MathNode;
  condition?: MathNode;
  trueExpr?: MathNode;
  falseExpr?: MathNode;
  conditionals?: string[];
  params?: MathNode[];
};

/**
 * Reads a formula. It is parsed by a general parser, then built anew from an allow-list of nodes into functions of our
 * own: numbers, known names, arithmetic, comparisons, `and`, `or`, `not`, `a ? b : c` and the functions of
 * {@link functionNames}. There are no properties, assignments, texts, lists or loops, so a formula can reach nothing but
 * the values it is given, and always ends.
 *
 * @example readFormula('60 * d / v', new Set(['d', 'v'])).value({ d: 3, v: 6 }) // 30
 */
export function readFormula(text: string, known: ReadonlySet<string>): ReadFormula {
  if (text.trim() === '') return { ok: false, message: 'Write a formula.' };
  if (text.length > longestFormula) return { ok: false, message: `At most ${longestFormula} characters.` };
  const names = new Set<string>();
  let nodes = 0;

  const build = (input: MathNode | undefined): ((values: Values) => number) => {
    const node = input as Loose | undefined;
    if (!node || ++nodes > 200) throw new Unfit('This formula is too long.');
    switch (node.type) {
      case 'ConstantNode': {
        const { value } = node;
        if (typeof value === 'boolean') return () => truth(value);
        if (typeof value !== 'number') throw new Unfit('Only numbers can stand in a formula.');
        return () => value;
      }
      case 'ParenthesisNode':
        return build(node.content);
      case 'SymbolNode': {
        const name = String(node.name);
        if (known.has(name)) {
          names.add(name);
          return (values) => values[name] ?? Number.NaN;
        }
        const constant = constants.get(name);
        if (constant !== undefined) return () => constant;
        if (name === 'log') throw new Unfit('Write ln or log10.');
        throw new Unfit(
          functions.has(name) ? `${name} needs brackets: ${name}(…).` : `“${name}” is no variable declared above.`,
        );
      }
      case 'OperatorNode': {
        const args = (node.args ?? []).map(build);
        const [a, b] = args as [(values: Values) => number, (values: Values) => number];
        const sign = args.length === 1 ? signs.get(String(node.fn)) : undefined;
        if (sign) return (values) => sign(a(values));
        const operator = args.length === 2 ? operators.get(String(node.fn)) : undefined;
        if (operator) return (values) => operator(a(values), b(values));
        throw new Unfit('This sign cannot be used in a formula.');
      }
      case 'FunctionNode': {
        const called = (node.fn as { type?: string; name?: unknown } | undefined) ?? {};
        const name = called.type === 'SymbolNode' ? String(called.name) : '';
        const known = functions.get(name);
        if (!known) throw new Unfit(name === 'log' ? 'Write ln or log10.' : `There is no function “${name}”.`);
        const args = (node.args ?? []).map(build);
        if (args.length < known.least || args.length > known.most)
          throw new Unfit(
            `${name} takes ${known.least === known.most ? known.least : `${known.least} to ${known.most}`} values.`,
          );
        return (values) => known.run(...args.map((arg) => arg(values)));
      }
      case 'ConditionalNode': {
        const [condition, then, otherwise] = [build(node.condition), build(node.trueExpr), build(node.falseExpr)];
        return (values) => (condition(values) !== 0 ? then(values) : otherwise(values));
      }
      case 'RelationalNode': {
        const params = (node.params ?? []).map(build);
        const links = (node.conditionals ?? []).map((name) => operators.get(name));
        if (links.includes(undefined)) throw new Unfit('This comparison cannot be used in a formula.');
        return (values) => {
          const all = params.map((param) => param(values));
          return truth(links.every((link, i) => link?.(all[i] as number, all[i + 1] as number) !== 0));
        };
      }
      default:
        throw new Unfit('Only numbers, variables, arithmetic, comparisons and functions can stand in a formula.');
    }
  };

  try {
    const value = build(parse(text));
    return { ok: true, names: [...names], value };
  } catch (thrown) {
    if (thrown instanceof Unfit) return { ok: false, message: thrown.message };
    return { ok: false, message: 'This formula cannot be read. An example: round(60 * d / v, 1)' };
  }
}

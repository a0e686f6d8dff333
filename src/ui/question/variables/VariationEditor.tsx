'use client';
import { Plus } from 'lucide-react';
import { useDeferredValue, useMemo, useRef } from 'react';
import type { Problem } from '@/core/base/result';
import { oneOrMany } from '@/core/base/words';
import { freeId } from '@/core/question/choices';
import type { QuestionContent } from '@/core/question/content';
import { functionNames, readFormula } from '@/core/question/variables/formula';
import { inspectQuestion } from '@/core/question/variables/inspectQuestion';
import { renameUses } from '@/core/question/variables/renameVariable';
import { valueText } from '@/core/question/variables/valueText';
import { isVariableName, type Variable, type Variation, variableSchema } from '@/core/question/variables/variation';
import { Button, RemoveButton } from '../../kit/Button';
import { SelectField, TextField } from '../../kit/Field';
import { numberIn } from '../../kit/numberIn';
import { contentProblem } from '../editing';
import { NumberText } from '../NumberText';

type Varied = QuestionContent & Variation;
type Props<Content extends Varied> = {
  content: Content;
  onChange: (content: Content) => void;
  problems: readonly Problem[];
};

/** The variables of a question, the conditions on them, and a table of sample papers with every problem found. */
export function VariationEditor<Content extends Varied>({ content, onChange, problems }: Props<Content>) {
  const variables = content.variables ?? [];
  const constraints = content.constraints ?? [];
  const set = (part: { variables?: Variable[]; constraints?: string[] }) => onChange({ ...content, ...part });
  const change = (at: number, part: Partial<Variable>) =>
    set({ variables: variables.map((one, i) => (i === at ? { ...one, ...part } : one)) });
  // The formulas call a variable by the last name it had that a formula can hold: halfway through typing there is none.
  const called = useRef(new Map(variables.map((variable) => [variable.id, variable.name])));
  const rename = (at: number, { id, name: before }: Variable, name: string) => {
    const renamed = variables.map((one, i) => (i === at ? { ...one, name } : one));
    const free = isVariableName(name) && !variables.some((one, i) => i !== at && one.name === name);
    const from = called.current.get(id) ?? before;
    if (free) called.current.set(id, name);
    const next = { ...content, variables: renamed };
    onChange(free ? renameUses(next, from, name) : next);
  };
  const add = () => {
    const name =
      'abcdefghijklmnopqrstuvwxyz'.split('').find((one) => one !== 'e' && !variables.some((v) => v.name === one)) ??
      'x1';
    set({
      variables: [
        ...variables,
        { id: freeId(variables, 'v'), name, source: { kind: 'range', from: 1, to: 10, step: 1 } },
      ],
    });
  };
  if (variables.length === 0)
    return (
      <Button look="quiet" onClick={add}>
        <Plus size={15} aria-hidden="true" /> Different values on each paper
      </Button>
    );
  return (
    <section aria-label="Values that differ from paper to paper" className="border border-plum/40 p-3">
      <h3 className="mb-2 font-sans text-sm font-medium text-plum">Values that differ from paper to paper</h3>
      {contentProblem(problems, 'variables') && (
        <p className="mb-1 text-sm text-brick">{contentProblem(problems, 'variables')}</p>
      )}
      <ol className="space-y-2">
        {variables.map((variable, i) => (
          <li key={variable.id} className="flex flex-wrap items-start gap-2">
            <TextField
              quiet
              label={`Name of value ${i + 1}`}
              className="w-24"
              value={variable.name}
              onChange={(event) => rename(i, variable, event.target.value)}
              problem={contentProblem(problems, `variables.${i}.name`)}
            />
            <SelectField
              quiet
              label={`Where ${variable.name} comes from`}
              className="w-32"
              value={variable.source.kind}
              onChange={(event) => change(i, { source: blankSource(event.target.value as Variable['source']['kind']) })}
            >
              <option value="range">from … to</option>
              <option value="list">one of</option>
              <option value="formula">worked out</option>
            </SelectField>
            <Source
              key={variable.source.kind}
              variable={variable}
              onChange={(source) => change(i, { source })}
              problem={(rest) => contentProblem(problems, `variables.${i}.source${rest}`)}
            />
            <RemoveButton
              label={`Remove ${variable.name}`}
              onClick={() => set({ variables: variables.filter((_, at) => at !== i) })}
            />
          </li>
        ))}
      </ol>
      <ol className="mt-2 space-y-2">
        {constraints.map((constraint, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the rows have no identity besides their place
          <li key={i} className="flex items-start gap-2">
            <TextField
              quiet
              label={`Condition ${i + 1}`}
              placeholder="a > 2 * b"
              className="flex-1"
              value={constraint}
              onChange={(event) =>
                set({ constraints: constraints.map((one, at) => (at === i ? event.target.value : one)) })
              }
              problem={contentProblem(problems, `constraints.${i}`)}
            />
            <RemoveButton
              label={`Remove condition ${i + 1}`}
              onClick={() => set({ constraints: constraints.filter((_, at) => at !== i) })}
            />
          </li>
        ))}
      </ol>
      <div className="mt-1 flex flex-wrap gap-2">
        <Button look="quiet" onClick={add}>
          <Plus size={15} aria-hidden="true" /> Add a variable
        </Button>
        <Button look="quiet" onClick={() => set({ constraints: [...constraints, ''] })}>
          <Plus size={15} aria-hidden="true" /> A condition
        </Button>
        <details className="self-center text-sm text-ink-2">
          <summary>What a formula can hold</summary>
          Numbers, the values above, + − * / ^, comparisons (&lt; &lt;= == !=), and, or, not, a ? b : c, pi, and{' '}
          {functionNames.join(', ')}. Angles are in radians; rad(x) and deg(x) convert.
        </details>
      </div>
      <Samples content={content} />
    </section>
  );
}

const blankSource = (kind: Variable['source']['kind']): Variable['source'] =>
  kind === 'range'
    ? { kind, from: 1, to: 10, step: 1 }
    : kind === 'list'
      ? { kind, values: [1, 2, 3] }
      : { kind, formula: '' };

type SourceProps = {
  variable: Variable;
  onChange: (source: Variable['source']) => void;
  problem: (rest: string) => string | null;
};

function Source({ variable: { name, source }, onChange, problem }: SourceProps) {
  if (source.kind === 'range')
    return (
      <>
        {(['from', 'to', 'step'] as const).map((part) => (
          <span key={part} className="flex items-start gap-1">
            {part !== 'from' && <span className="pt-2 text-sm text-ink-2">{part === 'to' ? 'to' : 'in steps of'}</span>}
            <NumberText
              quiet
              label={`${name}: ${part}`}
              className="w-20"
              value={source[part]}
              onChange={(value) => onChange({ ...source, [part]: value })}
              problem={problem(`.${part}`)}
            />
          </span>
        ))}
      </>
    );
  if (source.kind === 'formula')
    return (
      <TextField
        quiet
        label={`Formula of ${name}`}
        placeholder="60 * d / v"
        className="min-w-48 flex-1"
        value={source.formula}
        onChange={(event) => onChange({ ...source, formula: event.target.value })}
        problem={problem('.formula')}
      />
    );
  return (
    <ListOfNumbers
      name={name}
      values={source.values}
      onChange={(values) => onChange({ kind: 'list', values })}
      problem={problem('.values')}
    />
  );
}

function ListOfNumbers({
  name,
  values,
  onChange,
  problem,
}: {
  name: string;
  values: number[];
  onChange: (values: number[]) => void;
  problem: string | null;
}) {
  return (
    <TextField
      quiet
      label={`Values of ${name}, divided by spaces or semicolons`}
      className="min-w-48 flex-1"
      defaultValue={values.join('; ')}
      onChange={(event) => {
        const read = event.target.value
          .split(/[;\s]+/)
          .filter(Boolean)
          .map((text) => numberIn(text));
        if (read.length && read.every(Number.isFinite)) onChange(read);
      }}
      hint="for example 4; 4.5; 6"
      problem={problem}
    />
  );
}

/** Sample papers with their answers, how many papers there are, and what is wrong. */
function Samples({ content }: { content: Varied }) {
  const settled = useDeferredValue(content);
  const report = useMemo(() => {
    const names = new Set<string>();
    for (const variable of settled.variables ?? []) {
      const { name, source } = variable;
      if (!variableSchema.safeParse(variable).success) return null;
      if (source.kind === 'formula' && !readFormula(source.formula, names).ok) return null;
      names.add(name);
    }
    if ((settled.constraints ?? []).some((one) => !readFormula(one, names).ok)) return null;
    return inspectQuestion(settled);
  }, [settled]);
  if (!report)
    return (
      <p className="mt-2 text-sm text-ink-2">
        Sample papers stand here once every value and every formula can be read.
      </p>
    );
  const names = (settled.variables ?? []).map((variable) => variable.name);
  const answers = Math.max(0, ...report.samples.map((sample) => sample.answers.length));
  const { exact, count } = report.variants;
  return (
    <div className="mt-3 border-t border-line pt-2">
      <p className="text-sm">
        {exact ? count.toLocaleString('en-GB') : `More than ${count.toLocaleString('en-GB')}`} different{' '}
        {exact && oneOrMany(count, 'paper')}
        {report.met < report.tried &&
          `; the conditions are met by ${report.met.toLocaleString('en-GB')} of ${report.tried.toLocaleString('en-GB')} ${exact ? 'combinations' : 'samples'}`}
        .
      </p>
      <ul>
        {report.problems.map((problem) => (
          <li
            key={problem.message}
            className={`text-sm ${problem.severity === 'error' ? 'text-brick' : 'text-saffron'}`}
          >
            {problem.severity === 'error' ? 'To be mended' : 'Look at this'}: {problem.message}
          </li>
        ))}
      </ul>
      {report.samples.length > 0 && (
        <div className="mt-1 overflow-x-auto">
          <table className="text-sm">
            <caption className="sr-only">Sample papers</caption>
            <thead>
              <tr className="text-left text-ink-2">
                {names.map((name) => (
                  <th key={name} className="pr-5 font-normal">
                    {name}
                  </th>
                ))}
                {Array.from({ length: answers }, (_, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: columns have no identity besides their place
                  <th key={i} className="pr-5 font-medium text-ink">
                    {answers === 1 ? 'answer' : `answer ${i + 1}`}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {report.samples.map((sample, row) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: rows have no identity besides their place
                <tr key={row} className="border-t border-line">
                  {names.map((name) => (
                    <td key={name} className="pr-5">
                      {short(sample.values[name])}
                    </td>
                  ))}
                  {sample.answers.map((answer, i) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: columns have no identity besides their place
                    <td key={i} className="pr-5 font-medium">
                      {short(answer)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}

const short = (value: number | undefined) =>
  value === undefined || !Number.isFinite(value) ? 'none' : valueText(Number(value.toPrecision(6)), null);

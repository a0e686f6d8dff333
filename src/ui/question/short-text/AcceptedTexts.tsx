'use client';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Problem } from '@/core/base/result';
import { emptyRich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { oneOrMany } from '@/core/base/words';
import type { AcceptedText, MatchingRule } from '@/core/question/text/acceptedText';
import { matchText, slipsAllowed, type TextMatch } from '@/core/question/text/matchText';
import { Button, RemoveButton } from '../../kit/Button';
import { SelectField, TextField } from '../../kit/Field';
import { TextButton } from '../../kit/TextButton';
import { contentProblem } from '../editing';
import { NumberText } from '../NumberText';
import { RichEditor } from '../rich/RichEditor';
import { addsText, isText } from '../textOrder';
import { useNewRow } from '../useNewRow';

type Key = { accepted: AcceptedText[]; matching: MatchingRule };
type Props = {
  value: Key;
  onChange: (value: Key) => void;
  problems: readonly Problem[];
  /** Where the answers stand in the content, for their problems. */
  path: string;
  /** Whether the list may be empty: the answer then waits for a person. */
  mayBeEmpty?: boolean;
};

/** Accepted answers in words, how they are compared, and a box to try an answer. */
export function AcceptedTexts({ value, onChange, problems, path, mayBeEmpty }: Props) {
  const { accepted, matching } = value;
  const set = (next: AcceptedText[]) => onChange({ ...value, accepted: next });
  const change = (at: number, part: Partial<AcceptedText>) =>
    set(accepted.map((one, i) => (i === at ? { ...one, ...part } : one)));
  const rule = (part: Partial<MatchingRule>) => onChange({ ...value, matching: { ...matching, ...part } });
  const newRow = useNewRow();
  const add = (at: number) => {
    newRow.expect(at);
    set([...accepted.slice(0, at), { text: '', credit: 1 }, ...accepted.slice(at)]);
  };
  const inPath = (rest: string) => contentProblem(problems, `${path}${rest}`);
  return (
    <div>
      <h3 className="mb-1 font-sans text-sm font-medium">Accepted answers</h3>
      {inPath('accepted') && <p className="mb-1 text-sm text-brick">{inPath('accepted')}</p>}
      {accepted.length === 0 && <p className="text-sm text-ink-2">None: every answer is marked by hand.</p>}
      <ol className="space-y-2">
        {accepted.map((one, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the rows have no identity besides their place
          <li key={i} ref={newRow.row(i)}>
            <div className="flex items-start gap-2">
              <TextField
                quiet
                {...isText}
                label={`Answer ${i + 1}`}
                className="flex-1"
                value={one.text}
                onChange={(event) => change(i, { text: event.target.value })}
                onKeyDown={(event) => {
                  if (event.key !== 'Enter' || event.ctrlKey || event.metaKey) return;
                  event.preventDefault();
                  add(i + 1);
                }}
                problem={inPath(`accepted.${i}.text`)}
              />
              <NumberText
                quiet
                label={`Credit of answer ${i + 1} in percent`}
                className="w-16"
                value={one.credit * 100}
                onChange={(percent) => change(i, { credit: percent / 100 })}
                problem={inPath(`accepted.${i}.credit`) && '0 to 100'}
              />
              <span className="pt-2 text-sm text-ink-2">%</span>
              <RemoveButton
                label={`Remove answer ${i + 1}`}
                disabled={!mayBeEmpty && accepted.length === 1}
                onClick={() => set(accepted.filter((_, at) => at !== i))}
              />
            </div>
            {one.feedback ? (
              <RichEditor
                low
                label={`Feedback for answer ${i + 1}`}
                value={one.feedback}
                onChange={(feedback) => change(i, { feedback })}
              />
            ) : (
              <TextButton className="text-sm" onClick={() => change(i, { feedback: emptyRich })}>
                Add feedback for this answer
              </TextButton>
            )}
          </li>
        ))}
      </ol>
      <Button
        look="quiet"
        {...addsText}
        className="mt-1"
        title="Enter in an answer does the same"
        onClick={() => add(accepted.length)}
      >
        <Plus size={15} aria-hidden="true" /> Accept another answer
      </Button>
      <fieldset className="mt-2 flex flex-wrap items-end gap-x-5 gap-y-2 text-sm">
        <legend className="sr-only">How answers are compared</legend>
        <span className="flex min-h-9 flex-wrap items-center gap-x-4">
          Ignored:
          {(
            [
              ['case', 'upper or lower case'],
              ['accents', 'accents'],
              ['spacing', 'spaces and punctuation'],
            ] as const
          ).map(([name, label]) => (
            <label key={name} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                className="accent-prussian"
                checked={matching.ignore[name]}
                onChange={(event) => rule({ ignore: { ...matching.ignore, [name]: event.target.checked } })}
              />
              {label}
            </label>
          ))}
        </span>
        <SelectField
          label="Typing slips and wildcards"
          className="w-64"
          value={matching.wildcards ? 'wildcards' : String(matching.slips)}
          onChange={(event) =>
            rule(
              event.target.value === 'wildcards'
                ? { wildcards: true, slips: 0 }
                : { wildcards: false, slips: Number(event.target.value) },
            )
          }
          problem={inPath('matching.slips')}
        >
          <option value="0">no typing slips forgiven</option>
          {[1, 2, 3].map((slips) => (
            <option key={slips} value={slips}>
              {slips} typing {oneOrMany(slips, 'slip')} forgiven
            </option>
          ))}
          <option value="wildcards">wildcards: * any run, ? one sign</option>
        </SelectField>
      </fieldset>
      <TryText value={value} />
    </div>
  );
}

function TryText({ value }: { value: Key }) {
  const [text, setText] = useState('');
  const match = matchText(value.accepted, value.matching, text);
  const taken = match && value.accepted[match.index];
  return (
    <div className="mt-2 flex items-end gap-3 border-t border-line pt-2">
      <TextField
        label="Try an answer"
        className="w-56"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <p className="min-h-9 flex-1 pt-1.5" aria-live="polite">
        {text.trim() === ''
          ? ''
          : value.accepted.length === 0
            ? 'Waits for a person.'
            : match && taken
              ? `${pointsText(match.credit * 100)} %: ${reason(match, taken.text, value.matching)}`
              : `No credit: it matches none of the answers${value.matching.slips > 0 ? ', also not with the slips forgiven' : ''}.`}
      </p>
    </div>
  );
}

function reason({ how }: TextMatch, answer: string, rule: MatchingRule): string {
  switch (how.by) {
    case 'same':
      return `the same as “${answer}”.`;
    case 'ignoring': {
      const ignored = [
        rule.ignore.case && 'case',
        rule.ignore.accents && 'accents',
        rule.ignore.spacing && 'spaces and punctuation',
      ];
      return `“${answer}”, when ${ignored.filter(Boolean).join(', ')} do not count.`;
    }
    case 'slips':
      return `“${answer}” with ${how.slips} typing ${oneOrMany(how.slips, 'slip')} (${slipsAllowed(rule.slips, [...answer].length)} forgiven in a word of this length).`;
    case 'pattern':
      return `it fits “${answer}”.`;
  }
}

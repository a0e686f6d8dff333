'use client';
import {
  type CreditRule,
  creditRules,
  type MultipleChoiceContent,
} from '@/core/question/types/multiple-choice/content';
import { SelectField } from '../../kit/Field';
import { ChoicesEditor } from '../ChoicesEditor';
import type { EditorProps } from '../editing';
import { creditRuleNames } from './Review';

const explained: Record<CreditRule, string> = {
  'all-or-nothing': 'All the points for exactly the right picks, else none.',
  'wrong-cancels-right': '(right picks − wrong picks) ÷ number of right choices, never below 0.',
  'each-judged': 'Share of choices rightly picked or rightly left; nothing picked earns 0.',
};

export const MultipleChoiceEditor = (props: EditorProps<MultipleChoiceContent>) => (
  <div className="space-y-3">
    <ChoicesEditor {...props} several />
    <SelectField
      label="Credit"
      className="max-w-md"
      value={props.content.rule}
      onChange={(event) => props.onChange({ ...props.content, rule: event.target.value as CreditRule })}
      hint={explained[props.content.rule]}
    >
      {creditRules.map((rule) => (
        <option key={rule} value={rule}>
          {creditRuleNames[rule]}
        </option>
      ))}
    </SelectField>
  </div>
);

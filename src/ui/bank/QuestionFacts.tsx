import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { difficulties } from '@/core/question/types';
import { SelectField, TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { problemAt } from '../kit/Problems';
import { CategoryField } from './CategoryField';
import type { Fields } from './fields';
import type { BankPageProps } from './model';

type Props = {
  fields: Fields;
  categories: BankPageProps['categories'];
  usualPoints: number;
  problems: readonly Problem[];
  onChange: (part: Partial<Fields>) => void;
};

/** What is known of a question besides its content: its name, where it stands, how hard it is, what it is worth. */
export const QuestionFacts = ({ fields, categories, usualPoints, problems, onChange }: Props) => (
  <div className="grid grid-cols-[2fr_2fr_1fr_0.8fr] gap-3">
    <TextField
      label="Short name (private)"
      value={fields.shortName}
      onChange={(event) => onChange({ shortName: event.target.value })}
      problem={problemAt(problems, 'shortName')}
    />
    <CategoryField
      label="Category"
      categories={categories}
      value={fields.categoryId}
      onPick={(categoryId) => onChange({ categoryId })}
      problem={problemAt(problems, 'categoryId')}
    />
    <SelectField
      label="Difficulty"
      value={fields.difficulty ?? ''}
      onChange={(event) => onChange({ difficulty: (event.target.value || null) as Fields['difficulty'] })}
    >
      <option value="">not set</option>
      {difficulties.map((one) => (
        <option key={one}>{one}</option>
      ))}
    </SelectField>
    <NumberField
      label="Points"
      placeholder={pointsText(usualPoints)}
      value={fields.points}
      onChange={(event) => onChange({ points: event.target.value })}
      problem={problemAt(problems, 'points')}
    />
  </div>
);

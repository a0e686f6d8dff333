import { type TableField, tableFieldNames, tableFields } from '@/core/bank/bringIn/readTable';
import type { CategoryNode } from '@/core/bank/categoryTree';
import type { Preview } from '@/server/bringIn/bringIn';
import { Button } from '../kit/Button';
import { SelectField } from '../kit/Field';
import { Sheet } from '../kit/Page';
import { QuestionReview } from '../question/QuestionReview';
import type { BringingIn } from './useBringIn';

const stateNames = { new: 'new', there: 'already there', unreadable: 'cannot be read' };

type Props = { bringing: BringingIn; preview: Preview; categories: CategoryNode[] };

/** What was read, question by question: what is new, what is there already, what cannot be read and why. */
export function BringInPreview({ bringing, preview, categories }: Props) {
  const { left, chosen } = bringing;
  return (
    <Sheet label="Preview" className="px-5 py-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <p className="text-lg" role="status">
          {preview.counts.new} new, {preview.counts.there} already there, {preview.counts.unreadable} that cannot be
          read
          {preview.counts.unreadable > 0 && !preview.columns && (
            <span className="block text-sm text-ink-2">
              What is not brought in stays in the text, to be mended there.
            </span>
          )}
        </p>
        <div className="flex items-end gap-2">
          <SelectField
            label="Where no category is named, into"
            className="w-64"
            value={bringing.categoryId}
            onChange={(event) => bringing.setCategoryId(event.target.value)}
          >
            {categories.map((one) => (
              <option key={one.id} value={one.id}>
                {'\u2003'.repeat(one.depth)}
                {one.name}
              </option>
            ))}
          </SelectField>
          <Button onClick={bringing.backToText}>Back to the text</Button>
          <Button
            look="main"
            disabled={bringing.busy}
            whyNot={chosen.length === 0 ? 'Nothing is chosen.' : null}
            onClick={() => void bringing.take()}
          >
            Bring in {chosen.length}
          </Button>
        </div>
      </div>
      {preview.columns && (
        <div className="mt-3 overflow-x-auto border border-line p-2">
          <p className="text-sm text-ink-2">What each column holds; remembered for tables with these headings.</p>
          <div className="flex gap-2">
            {preview.columns.headings.map((heading, i) => (
              <SelectField
                // biome-ignore lint/suspicious/noArrayIndexKey: headings may repeat
                key={i}
                label={heading || `column ${i + 1}`}
                className="w-36 shrink-0"
                value={preview.columns?.fields[i] ?? 'ignore'}
                onChange={(event) => bringing.map(i, event.target.value as TableField)}
              >
                {tableFields.map((field) => (
                  <option key={field} value={field}>
                    {tableFieldNames[field]}
                  </option>
                ))}
              </SelectField>
            ))}
          </div>
        </div>
      )}
      <ol className="mt-3">
        {preview.items.slice(0, 500).map((item, i) => (
          <BroughtRow
            // biome-ignore lint/suspicious/noArrayIndexKey: the list never reorders
            key={i}
            item={item}
            place={preview.columns ? 'Row' : 'Line'}
            isLeft={left.has(i)}
            onToggle={() => bringing.toggle(i)}
          />
        ))}
      </ol>
      {preview.items.length > 500 && (
        <p className="text-sm text-ink-2">The first 500 are shown; all that are new are brought in.</p>
      )}
      {preview.items.length === 0 && (
        <p className="mt-3 text-ink-2">No question was found: each begins with its number, such as “1.”.</p>
      )}
    </Sheet>
  );
}

type RowProps = {
  item: Preview['items'][number];
  /** What the number of its place counts. */
  place: string;
  isLeft: boolean;
  onToggle: () => void;
};

function BroughtRow({ item, place, isLeft, onToggle }: RowProps) {
  return (
    <li className={`flex gap-3 border-t border-line py-2 ${isLeft ? 'bg-paper' : ''}`}>
      <input
        type="checkbox"
        aria-label={`Bring in ${item.title || `line ${item.at}`}`}
        disabled={!item.content}
        checked={Boolean(item.content) && !isLeft}
        onChange={onToggle}
        className="mt-1.5 size-4 shrink-0 accent-prussian"
      />
      <div className="min-w-0 flex-1">
        <p className="flex flex-wrap justify-between gap-x-3 text-sm text-ink-2">
          <span>
            {place} {item.at}
            {item.type && ` · ${item.type.toLowerCase()}`}
            {item.category && ` · ${item.category}`}
            {item.difficulty && ` · ${item.difficulty}`}
          </span>
          <span
            className={`font-medium ${item.state === 'new' ? 'text-pine' : item.state === 'there' ? 'text-saffron' : 'text-brick'}`}
          >
            {stateNames[item.state]}
          </span>
        </p>
        {item.problems.map((problem) => (
          <p
            key={problem.message}
            className={`text-sm ${problem.severity === 'error' ? 'text-brick' : 'text-saffron'}`}
          >
            {problem.message}
          </p>
        ))}
        {item.content ? <QuestionReview content={item.content} /> : <p className="font-serif">{item.title}</p>}
      </div>
    </li>
  );
}

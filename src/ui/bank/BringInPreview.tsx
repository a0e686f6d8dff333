import { useState } from 'react';
import { type TableField, tableFieldNames, tableFields } from '@/core/bank/bringIn/readTable';
import type { CategoryNode } from '@/core/bank/categoryTree';
import { counted, oneOrMany } from '@/core/base/words';
import type { Preview } from '@/server/bringIn/preview';
import { Button } from '../kit/Button';
import { SelectField } from '../kit/Field';
import { Sheet } from '../kit/Page';
import { PageTurner } from '../kit/PageTurner';
import { Progress } from '../kit/Progress';
import { BroughtQuestion } from './BroughtQuestion';
import { CategoryField } from './CategoryField';
import { MendingTable } from './MendingTable';
import type { BringingIn } from './useBringIn';

type Props = { bringing: BringingIn; preview: Preview; categories: CategoryNode[]; letters: [string, string][] };

/** What was read: what is new, what has to be decided, what is there already, what cannot be read and why. */
export function BringInPreview({ bringing, preview, categories, letters }: Props) {
  const { chosen } = bringing;
  const { counts } = preview;
  return (
    <Sheet label="Preview" className="px-5 py-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <p className="text-lg" role="status">
          {countsSaid(counts)}
          {(counts.unreadable > 0 || counts.unreadLines > 0) && preview.text && (
            <span className="block text-sm text-ink-2">What is not brought in stays in your text.</span>
          )}
        </p>
        <div className="flex flex-wrap items-end gap-2">
          <CategoryField
            label="Where no category is named, into"
            className="w-64"
            categories={categories}
            value={bringing.categoryId}
            onPick={bringing.setCategoryId}
          />
          <Button onClick={bringing.backToText}>{preview.text ? 'Back to the text' : 'Something else'}</Button>
          <Button
            look="main"
            busy={bringing.isTaking}
            whyNot={chosen.length === 0 ? 'Nothing is chosen.' : null}
            onClick={() => void bringing.take()}
          >
            {bringing.isTaking ? `Bringing in ${chosen.length} …` : `Bring in ${chosen.length}`}
          </Button>
          {bringing.isTaking && (
            <span className="flex items-center gap-2">
              <Progress label="Brought in" max={chosen.length} value={bringing.taken} />
              <span className="text-sm tabular-nums">
                {bringing.taken} of {chosen.length}
              </span>
              <Button onClick={bringing.stop}>Stop</Button>
            </span>
          )}
        </div>
      </div>
      {preview.encoding && bringing.canReadLetters && (
        <div className="mt-2 flex flex-wrap items-end gap-3 bg-saffron-wash px-3 py-2">
          <p className="max-w-prose text-saffron">
            This file does not say in which alphabet its letters are written. Look at accents and signs: if they are
            wrong, choose another.
          </p>
          <SelectField
            label="Letters"
            className="w-64"
            value={preview.encoding}
            onChange={(event) => bringing.readLetters(event.target.value)}
          >
            {letters.map(([name, says]) => (
              <option key={name} value={name}>
                {says}
              </option>
            ))}
          </SelectField>
        </div>
      )}
      {preview.columns && <Columns bringing={bringing} columns={preview.columns} />}
      {preview.text ? (
        <MendingTable bringing={bringing} preview={preview} text={preview.text} />
      ) : (
        <Rows bringing={bringing} preview={preview} />
      )}
      {preview.items.length === 0 && (
        <p className="mt-3 text-ink-2">
          {preview.columns
            ? 'No question was found: say which column holds the question text.'
            : 'No question was found. Say of a line above that it is a question, or of one that it is a choice.'}
        </p>
      )}
    </Sheet>
  );
}

const countsSaid = ({ new: fresh, ask, there, unreadable, unreadLines }: Preview['counts']): string =>
  [
    `${fresh} new`,
    ask > 0 && `${ask} to be decided`,
    `${there} already there`,
    `${unreadable} that cannot be read`,
    unreadLines > 0 && `${counted(unreadLines, 'line')} ${oneOrMany(unreadLines, 'was', 'were')} not read`,
  ]
    .filter(Boolean)
    .join(', ');

function Columns({ bringing, columns }: { bringing: BringingIn; columns: NonNullable<Preview['columns']> }) {
  return (
    <div className="mt-3 overflow-x-auto border border-line p-2">
      <p className="text-sm text-ink-2">
        {columns.hasHeadings
          ? 'What each column holds; remembered for tables with these headings.'
          : 'This table has no headings. What each column holds:'}
      </p>
      <div className="flex gap-2">
        {columns.headings.map((heading, i) => (
          <SelectField
            // biome-ignore lint/suspicious/noArrayIndexKey: headings may repeat
            key={i}
            label={heading || `column ${i + 1}`}
            className="w-36 shrink-0"
            value={columns.fields[i] ?? 'ignore'}
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
  );
}

/** So many rows of a table stand on one page. */
const perPage = 60;

/** The rows of a table at the left, and at the right what each of them became. */
function Rows({ bringing, preview }: { bringing: BringingIn; preview: Preview }) {
  const [page, setPage] = useState(0);
  const { items, columns } = preview;
  const first = page * perPage;
  const cellsOf = (at: number) => columns?.rows[at - (columns.hasHeadings ? 2 : 1)] ?? [];
  return (
    <>
      <ol className="mt-3" aria-label="Your rows, and what they become">
        {items.slice(first, first + perPage).map((item, i) => (
          <li
            key={item.at}
            className="grid gap-x-4 gap-y-2 border-t border-line py-2 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]"
          >
            <p className="grid min-w-0 grid-cols-[2rem_minmax(0,1fr)] gap-x-2">
              <span className="text-right text-sm text-ink-2 tabular-nums">{item.at}</span>
              <span className="min-w-0 break-words">
                {cellsOf(item.at)
                  .filter((cell) => cell !== '')
                  .map((cell, n) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: cells stand by their place
                    <span key={n}>
                      {n > 0 && <span className="text-ink-2"> | </span>}
                      {cell.slice(0, 300)}
                    </span>
                  ))}
              </span>
            </p>
            <BroughtQuestion
              item={item}
              isTaken={bringing.isTaken(first + i)}
              onToggle={() => bringing.toggle(first + i)}
            />
          </li>
        ))}
      </ol>
      <PageTurner count={items.length} perPage={perPage} page={page} onTurn={setPage} />
    </>
  );
}

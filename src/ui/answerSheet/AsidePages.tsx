'use client';
import { asideSaid } from '@/core/answerSheet/gather';
import { counted, listed } from '@/core/base/words';
import type { ReviewedPage } from '@/server/answerSheet/seeReading';
import { Button } from '../kit/Button';
import { SelectField } from '../kit/Field';
import { Sheet } from '../kit/Page';
import { TextLink } from '../kit/TextLink';

type Props = {
  pages: readonly ReviewedPage[];
  students: readonly { userId: string; name: string }[];
  /** Where answers are typed in instead; null where nobody's can be. */
  typing: string | null;
  picture: (pageId: string) => string;
  name: (pageId: string, userId: string | null) => void;
  leaveOut: (pageId: string, out: boolean) => void;
};

/** Pages can be given to somebody by name where their boxes could be read. */
const canBeNamed = (page: ReviewedPage): boolean => page.rows.length > 0;

function reasonOf({ aside, student, leftOut }: ReviewedPage): string {
  if (aside === 'differs' && student) return `${student.name}: two sheets say different things.`;
  if (aside) return asideSaid[aside];
  return leftOut && student ? `${student.name}: this page is left out.` : 'This page is left out.';
}

/** Pages that go to nobody until a person says otherwise, each with its picture and the reason. */
export const AsidePages = ({ pages, students, typing, picture, name, leaveOut }: Props) => (
  <Sheet label="Put aside" className="mb-4 px-5 py-4">
    <h2 className="font-serif text-lg font-semibold">Put aside: {counted(pages.length, 'page')}</h2>
    <ul>
      {pages.map((page) => (
        <li key={page.id} className="mt-3 flex flex-wrap gap-4 border-t border-line pt-3">
          {page.hasPicture && (
            // biome-ignore lint/performance/noImgElement: a picture of a sheet is neither scaled nor kept by the framework
            <img
              src={picture(page.id)}
              alt={`The page from ${page.source}`}
              className="max-h-56 max-w-48 border border-line"
              loading="lazy"
            />
          )}
          {page.other?.hasPicture && (
            // biome-ignore lint/performance/noImgElement: a picture of a sheet is neither scaled nor kept by the framework
            <img
              src={picture(page.other.pageId)}
              alt={`The page from ${page.other.source}, which counts so far`}
              className="max-h-56 max-w-48 border-2 border-prussian"
              loading="lazy"
            />
          )}
          <div className="grid content-start gap-2">
            <p>
              <span className="font-medium">{reasonOf(page)}</span>
              <span className="block text-sm text-ink-2">{page.source}</span>
            </p>
            {page.aside !== null && !canBeNamed(page) && (
              <p className="text-sm">
                Read it in once more
                {typing && (
                  <>
                    , or <TextLink href={typing}>type its answers in</TextLink>
                  </>
                )}
                .
              </p>
            )}
            {page.other && (
              <p className="text-sm">
                {page.other.rows.length > 0 &&
                  `They differ in ${page.other.rows.length === 1 ? 'row' : 'rows'} ${listed(page.other.rows)}. `}
                The one from {page.other.source} counts so far.
              </p>
            )}
            {students.length > 0 && page.aside !== null && canBeNamed(page) && !page.leftOut && (
              <SelectField
                label="It is the sheet of"
                className="w-64"
                value={page.named ?? ''}
                onChange={(event) => name(page.id, event.target.value || null)}
              >
                <option value="">nobody yet</option>
                {students.map((student) => (
                  <option key={student.userId} value={student.userId}>
                    {student.name}
                  </option>
                ))}
              </SelectField>
            )}
            <p className="flex flex-wrap gap-3">
              {page.other && !page.leftOut && (
                <Button onClick={() => leaveOut(page.other?.pageId ?? '', true)}>This one counts</Button>
              )}
              <Button onClick={() => leaveOut(page.id, !page.leftOut)}>
                {page.leftOut ? 'Take it in again' : 'Leave it out'}
              </Button>
            </p>
          </div>
        </li>
      ))}
    </ul>
  </Sheet>
);

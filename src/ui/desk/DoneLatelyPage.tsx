'use client';
import { useState } from 'react';
import { momentText } from '@/core/base/time';
import { oneOrMany } from '@/core/base/words';
import type { DoneChange, Within } from '@/server/doneLately';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { PageTurner } from '../kit/PageTurner';
import { Problems } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';

type Props = {
  base: string;
  within: Within | null;
  changes: DoneChange[];
  timeZone: string;
} & Commands<'undoChange', 'courseId'>;

/** Where a place of changes is seen. */
const hrefOf = (base: string, { kind, id }: Within): string =>
  kind === 'bank' ? `${base}/banks/${id}` : kind === 'exam' ? `${base}/exams/${id}` : `${base}/marking/${id}`;

const perPage = 50;

/** What was done lately and can be taken back: after its page was left, too, by everybody who may do such a thing. */
export function DoneLatelyPage({ base, within, changes, timeZone, undoChange }: Props) {
  const { perform, problems, busy } = usePerform();
  const [page, setPage] = useState(0);
  const [done, setDone] = useState<string | null>(null);
  const standing = changes.filter((one) => one.undoneAt === null).length;
  const takeBack = (one: DoneChange) =>
    perform(
      () => undoChange(one.auditId),
      ({ said }) => setDone(said || `Taken back: ${one.said.charAt(0).toLowerCase()}${one.said.slice(1)}.`),
    );
  return (
    <PageFrame width="sheet">
      <PageTitle
        title={within ? `Done lately in ${within.name}` : 'Done lately in this course'}
        back={within ? { href: hrefOf(base, within), name: within.name } : { href: base, name: 'Desk' }}
        note={
          within ? (
            <TextLink href={`${base}/done`}>All of this course</TextLink>
          ) : (
            `${standing} ${oneOrMany(standing, 'thing')} of the last 60 days can be taken back`
          )
        }
      />
      {done && (
        <Done className="mb-3 border border-line" onUndo={null}>
          {done}
        </Done>
      )}
      <Problems problems={problems} className="mb-3" />
      {changes.length === 0 ? (
        <Empty title="Nothing was done lately">
          What is deleted, retired, moved, brought in or changed in one go stands here for 60 days, and can be taken
          back.
        </Empty>
      ) : (
        <Sheet label="What was done">
          <ul>
            {changes.slice(page * perPage, (page + 1) * perPage).map((one) => (
              <li
                key={one.auditId}
                className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-4 py-2 first:border-t-0"
              >
                <div className="min-w-0 flex-1 basis-64">
                  <p className={one.undoneAt === null ? '' : 'text-ink-2 line-through'}>{one.said}</p>
                  <p className="text-sm text-ink-2">
                    {momentText(one.at, timeZone)}
                    {one.by && ` · ${one.by}`}
                    {!within && one.within && (
                      <>
                        {' · '}
                        <TextLink href={hrefOf(base, one.within)}>{one.within.name}</TextLink>
                      </>
                    )}
                  </p>
                </div>
                {one.undoneAt === null ? (
                  <Button busy={busy} onClick={() => void takeBack(one)} aria-label={`Take it back: ${one.said}`}>
                    Take it back
                  </Button>
                ) : (
                  <span className="text-sm text-ink-2">taken back {momentText(one.undoneAt, timeZone)}</span>
                )}
              </li>
            ))}
          </ul>
          <div className="px-4 pb-2">
            <PageTurner count={changes.length} perPage={perPage} page={page} onTurn={setPage} />
          </div>
        </Sheet>
      )}
    </PageFrame>
  );
}

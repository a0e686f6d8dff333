import type { Metadata } from 'next';
import Link from 'next/link';
import { counted } from '@/core/base/words';
import { markingQueue } from '@/server/marking/markingQueue';
import { Empty, PageTitle, Sheet, State } from '@/ui/kit/Page';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'Marking' };

export default async function Marking({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const rows = orNotFound(markingQueue(await pageContext(), courseId));
  const waiting = rows.reduce((sum, row) => sum + row.waiting, 0);
  return (
    <div className="min-w-0">
      <PageTitle title="Marking" note={`${counted(waiting, 'answer waits', 'answers wait')} for a mark by hand`} />
      {rows.length === 0 ? (
        <Empty title="Nothing to mark">
          Closed questions are marked by rule at the hand-in. Written answers stand here, question by question, as soon
          as they are handed in.
        </Empty>
      ) : (
        <Sheet label="Questions with answers to mark">
          <ul>
            {rows.map((row) => (
              <li key={`${row.sittingId}/${row.questionId}`} className="border-b border-line last:border-b-0">
                <Link
                  href={`/c/${courseId}/marking/${row.sittingId}/${row.questionId}`}
                  className="grid grid-cols-[1fr_14rem_9rem] items-center gap-4 px-4 py-2 hover:bg-prussian-wash"
                >
                  <span className="min-w-0">
                    <span className="block truncate font-serif text-lg">{row.questionName}</span>
                    <span className="text-sm text-ink-2">{row.sittingTitle}</span>
                  </span>
                  <span className="flex items-center gap-2 text-sm text-ink-2 tabular-nums">
                    <span className="h-1.5 flex-1 bg-plum-wash">
                      <span
                        className="block h-full bg-plum"
                        style={{ width: `${(row.marked / (row.marked + row.waiting)) * 100}%` }}
                      />
                    </span>
                    {row.marked} of {row.marked + row.waiting} marked
                  </span>
                  <span className="text-right">
                    {row.waiting > 0 ? (
                      <State ink="hand">{row.waiting} waiting</State>
                    ) : (
                      <State ink="done">all marked</State>
                    )}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </Sheet>
      )}
    </div>
  );
}

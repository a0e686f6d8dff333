'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { RemarkingPreview } from '@/server/marking/remarking';
import type { GivenAnswer, ResponsesPage as Page } from '@/server/marking/responses';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { Done } from '../kit/Done';
import { Find, holds } from '../kit/Find';
import { Link } from '../kit/Link';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RichText } from '../kit/RichText';
import { RowTable, type Sorted, tableRow } from '../kit/RowTable';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';
import { creditSaid, earnedSaid, kindSaid } from './markSaid';
import { RemarkingTable } from './RemarkingTable';

type ResponsesCommands = Commands<'previewAccept' | 'acceptAnswer' | 'undoChange', 'courseId' | 'sittingId'>;

type Props = {
  back: { href: string; name: string };
  /** The address of the marked papers of this sitting, by student. */
  papers: string;
  /** The address where the question is marked anew. */
  remark: string;
  page: Page;
  commands: ResponsesCommands;
};

const credits = ['all', 'full', 'part', 'none', 'empty', 'waiting'] as const;
type Credit = (typeof credits)[number];
const creditNames: Record<Credit, string> = {
  all: 'all',
  full: 'full credit',
  part: 'in part',
  none: 'no credit',
  empty: 'empty',
  waiting: 'wait for a mark',
};

const creditOf = (one: GivenAnswer): Credit => {
  if (one.text === '' && one.points === 0) return 'empty';
  if (one.points === null) return one.kind === 'left-out' ? 'none' : 'waiting';
  if (one.points <= 1e-9) return 'none';
  return one.points >= one.outOf - 1e-9 ? 'full' : 'part';
};

/** Every answer to one question, with what it earned and how many said the same; each leads to its paper. */
export function ResponsesPage({ back, papers, remark, page, commands }: Props) {
  const { perform, problems, busy, setProblems } = usePerform();
  const [find, setFind] = useState('');
  const [credit, setCredit] = useState<Credit>('all');
  const [sorted, setSorted] = useState<Sorted>({ by: 'student', down: false });
  const [accepting, setAccepting] = useState<{ text: string; preview: RemarkingPreview } | null>(null);
  const [done, setDone] = useState<{ said: string; auditId: number } | null>(null);
  const counts = new Map<Credit, number>([['all', page.answers.length]]);
  for (const one of page.answers) counts.set(creditOf(one), (counts.get(creditOf(one)) ?? 0) + 1);
  const shown = page.answers.filter(
    (one) => (credit === 'all' || creditOf(one) === credit) && holds(find, one.text, one.student),
  );
  const by: Record<string, (a: GivenAnswer, b: GivenAnswer) => number> = {
    student: (a, b) => a.student.localeCompare(b.student) || a.attempt - b.attempt,
    answer: (a, b) => a.text.localeCompare(b.text),
    same: (a, b) => a.same - b.same || a.text.localeCompare(b.text),
    credit: (a, b) => (a.points ?? -1) / a.outOf - (b.points ?? -1) / b.outOf,
  };
  shown.sort((a, b) => (by[sorted.by]?.(a, b) ?? 0) * (sorted.down ? -1 : 1));
  const look = (text: string) =>
    perform(
      () => commands.previewAccept(page.questionId, { text }),
      (preview) => setAccepting({ text, preview }),
    );
  return (
    <PageFrame>
      <PageTitle title={`Answers: ${page.name}`} back={back} note={page.sittingTitle}>
        <ButtonLink href={remark}>Mark this question anew</ButtonLink>
      </PageTitle>
      {done && (
        <Done
          className="mb-3"
          onUndo={() =>
            void perform(
              () => commands.undoChange(done.auditId),
              () => setDone(null),
            )
          }
        >
          {done.said}
        </Done>
      )}
      <div className="mb-3 grid gap-4 lg:grid-cols-[1fr_1fr]">
        <Sheet label="Question" className="px-5 py-3">
          <RichText rich={page.stem} className="text-lg" />
          {page.right && (
            <p className="mt-1 text-sm">
              <span className="text-pine">Right:</span> <span className="font-serif">{page.right}</span>
            </p>
          )}
        </Sheet>
        <fieldset className="flex flex-wrap content-start gap-1">
          <legend className="sr-only">Show only</legend>
          {credits
            .filter((one) => one === 'all' || counts.has(one))
            .map((one) => (
              <Button
                key={one}
                look={credit === one ? 'plain' : 'quiet'}
                aria-pressed={credit === one}
                onClick={() => setCredit(one)}
              >
                {counts.get(one)} {creditNames[one]}
              </Button>
            ))}
        </fieldset>
      </div>
      <Problems problems={accepting ? [] : problems} className="mb-2" />
      <Sheet>
        <Find value={find} onChange={setFind} label="Find in answers or names" />
        <RowTable
          label="Answers"
          columns={[
            { key: 'student', name: 'Student', sortable: true },
            { key: 'answer', name: 'Answer', sortable: true },
            { key: 'same', name: 'Said by', right: true, sortable: true },
            { key: 'credit', name: 'Credit', right: true, sortable: true },
            { key: 'points', name: 'Points', right: true },
            { key: 'kind', name: 'Marked' },
            { key: 'accept', name: 'Accept', quiet: true },
          ]}
          rows={shown}
          sorted={sorted}
          onSort={setSorted}
        >
          {(one) => (
            <tr key={one.slotId} className={tableRow}>
              <td className="whitespace-nowrap">
                <Link href={`${papers}/${one.userId}?attempt=${one.attempt}`} className="text-prussian hover:underline">
                  {one.student}
                </Link>
                {one.attempt > 1 && <span className="text-sm text-ink-2"> attempt {one.attempt}</span>}
              </td>
              <td className="max-w-[32rem] truncate font-serif" title={one.text}>
                {one.text || <span className="font-sans text-ink-2">empty</span>}
              </td>
              <td className="text-right tabular-nums">{one.same}</td>
              <td className="text-right tabular-nums">
                {one.points === null ? '–' : creditSaid(one.points, one.outOf)}
              </td>
              <td className="text-right whitespace-nowrap tabular-nums">
                {one.points === null && one.kind !== 'left-out' ? (
                  <State ink="hand">waits</State>
                ) : (
                  earnedSaid(one.points, one.kind, one.outOf)
                )}
              </td>
              <td className="text-sm whitespace-nowrap text-ink-2">{one.kind && kindSaid[one.kind]}</td>
              <td className="text-right">
                {page.mayAccept && creditOf(one) === 'none' && one.text !== '' && (
                  <TextButton className="text-sm whitespace-nowrap" onClick={() => void look(one.text)}>
                    Accept from now on
                    <span className="sr-only"> “{one.text}”</span>
                  </TextButton>
                )}
              </td>
            </tr>
          )}
        </RowTable>
        {shown.length === 0 && <p className="px-4 py-3 text-ink-2">No answer fits.</p>}
      </Sheet>
      {accepting && (
        <Decision
          title={`Accept “${accepting.text}” from now on?`}
          act={`Accept it and mark ${counted(accepting.preview.changing, 'answer')} anew`}
          busy={busy}
          onClose={() => {
            setAccepting(null);
            setProblems([]);
          }}
          onAct={() =>
            void perform(
              () => commands.acceptAnswer(page.questionId, { text: accepting.text, key: accepting.preview.key }),
              ({ auditId, changed }) => {
                setDone({
                  said: `“${accepting.text}” is accepted from now on; ${counted(changed, 'answer earns', 'answers earn')} otherwise. Undo takes back the marks, not the key.`,
                  auditId,
                });
                setAccepting(null);
              },
            )
          }
        >
          <p>It becomes an answer of the question’s key, for full credit, and every answer is marked by that key.</p>
          <div className="max-h-[45vh] overflow-y-auto">
            <RemarkingTable preview={accepting.preview} />
          </div>
          <Problems problems={problems} />
        </Decision>
      )}
    </PageFrame>
  );
}

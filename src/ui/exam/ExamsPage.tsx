'use client';
import { Archive, ArchiveRestore, Copy } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { counted, pointsSaid } from '@/core/base/words';
import type { ExamRow } from '@/server/exam/exams';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextField } from '../kit/Field';
import { holds } from '../kit/Find';
import { Link } from '../kit/Link';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';

const tool = 'p-1.5 text-ink-2 hover:text-prussian disabled:opacity-30';

type Props = {
  base: string;
  exams: ExamRow[];
  mayChange: boolean;
} & Commands<'createExam' | 'duplicateExam' | 'archiveExam', 'courseId'>;

/** The exams of the course: designs without dates, used again year after year. */
export function ExamsPage({ base, exams, mayChange, createExam, duplicateExam, archiveExam }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [title, setTitle] = useState('');
  const [find, setFind] = useState('');
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const offScreen = (event.nativeEvent as SubmitEvent).submitter?.getAttribute('value') === 'off-screen';
    await perform(
      () => createExam({ title, offScreen }),
      ({ examId }) => router.push(`${base}/${examId}`),
    );
  };
  const [archived, setArchived] = useState(false);
  const [done, setDone] = useState<{ id: string; archived: boolean; title: string } | null>(null);
  const shown = exams.filter(
    (exam) => exam.archived === archived && holds(find, exam.title, exam.year, exam.subject, exam.level),
  );
  const away = exams.filter((exam) => exam.archived).length;
  const put = (exam: { id: string; title: string }, to: boolean) =>
    perform(
      () => archiveExam(exam.id, to),
      () => {
        setDone({ id: exam.id, title: exam.title, archived: to });
        if (away <= 1 && !to) setArchived(false);
        router.refresh();
      },
    );
  return (
    <PageFrame>
      <PageTitle
        title="Exams"
        note={`${counted(exams.length - away, 'exam')}; each is a design without dates, given to people as a sitting`}
      >
        {mayChange && (
          <form onSubmit={(event) => void submit(event)} className="flex items-start gap-2">
            <TextField
              label="Title of a new exam"
              quiet
              placeholder="Title of a new exam"
              className="w-64"
              value={title}
              onChange={(event) => setTitle(event.target.value)}
              problem={problemAt(problems, 'title')}
            />
            <Button type="submit" look="main" disabled={busy}>
              Begin an exam
            </Button>
            <Button
              type="submit"
              value="off-screen"
              disabled={busy}
              title="Its questions stand on paper or on the board; here stand the items and their key"
            >
              Off-screen
            </Button>
          </form>
        )}
      </PageTitle>
      <Problems problems={problemsBesides(problems, ['title'])} className="mb-3" />
      {exams.length === 0 ? (
        <Empty title="No exams yet">
          An exam is composed of fixed questions and of draws, such as “Draw 3 from Tides › Heights, 2 points each”.
          Type a title above to begin one.
        </Empty>
      ) : (
        <Sheet label="Exams">
          {done && (
            <Done className="border-b border-line" onUndo={() => void put(done, !done.archived)}>
              {done.title} {done.archived ? 'is archived.' : 'is back among the exams.'}
            </Done>
          )}
          {(exams.length > 4 || away > 0) && (
            <div className="flex items-center gap-4 border-b border-line p-2">
              <TextField
                label="Find exams"
                quiet
                placeholder="Find exams"
                type="search"
                value={find}
                onChange={(event) => setFind(event.target.value)}
                className="w-80"
              />
              {away > 0 && (
                <label className="flex items-center gap-1.5 text-sm">
                  <input
                    type="checkbox"
                    className="accent-prussian"
                    checked={archived}
                    onChange={(event) => setArchived(event.target.checked)}
                  />
                  {away} archived
                </label>
              )}
            </div>
          )}
          <ul>
            {shown.map((exam) => (
              <li
                key={exam.id}
                className="flex items-center border-b border-line pr-2 last:border-b-0 hover:bg-prussian-wash"
              >
                <Link
                  href={`${base}/${exam.id}`}
                  className="grid min-w-0 flex-1 grid-cols-[1fr_7rem_6rem_7rem] items-baseline gap-3 px-4 py-2"
                >
                  <span className="min-w-0">
                    <span className="font-serif text-lg">{exam.title}</span>{' '}
                    <span className="text-sm text-ink-2">
                      {[exam.offScreen && 'off-screen', exam.year, exam.subject, exam.level]
                        .filter(Boolean)
                        .join(' · ')}
                    </span>
                  </span>
                  <span className="text-right text-ink-2 tabular-nums">
                    {exam.questions} {exam.offScreen ? 'items' : 'questions'}
                  </span>
                  <span className="text-right text-ink-2 tabular-nums">{pointsSaid(exam.points)}</span>
                  <span className="text-right text-ink-2 tabular-nums">
                    {exam.sittings === 0 ? 'never given' : counted(exam.sittings, 'sitting')}
                  </span>
                </Link>
                {mayChange && (
                  <>
                    <button
                      type="button"
                      className={tool}
                      disabled={busy}
                      aria-label={`Duplicate ${exam.title}`}
                      title="Duplicate"
                      onClick={() =>
                        void perform(
                          () => duplicateExam(exam.id),
                          ({ examId }) => router.push(`${base}/${examId}`),
                        )
                      }
                    >
                      <Copy size={15} />
                    </button>
                    <button
                      type="button"
                      className={tool}
                      disabled={busy}
                      aria-label={`${exam.archived ? 'Bring back' : 'Archive'} ${exam.title}`}
                      title={exam.archived ? 'Bring back' : 'Archive: out of sight, nothing is lost'}
                      onClick={() => void put(exam, !exam.archived)}
                    >
                      {exam.archived ? <ArchiveRestore size={15} /> : <Archive size={15} />}
                    </button>
                  </>
                )}
              </li>
            ))}
          </ul>
          {shown.length === 0 && <p className="px-4 py-3 text-ink-2">No exam has these words.</p>}
        </Sheet>
      )}
    </PageFrame>
  );
}

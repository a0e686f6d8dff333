'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Empty, PageTitle, Sheet } from '../kit/Page';
import { problemAt } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';

type Props = {
  base: string;
  exams: { id: string; title: string; points: number; questions: number; sittings: number }[];
  mayChange: boolean;
  begin: Command<[title: string], { examId: string }>;
};

/** The exams of the course: designs without dates, used again year after year. */
export function ExamsPage({ base, exams, mayChange, begin }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [title, setTitle] = useState('');
  const [find, setFind] = useState('');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    await perform(
      () => begin(title),
      ({ examId }) => router.push(`${base}/${examId}`),
    );
  };
  const shown = exams.filter((exam) => exam.title.toLowerCase().includes(find.trim().toLowerCase()));
  return (
    <div className="max-w-[1000px]">
      <PageTitle
        title="Exams"
        note={`${exams.length} ${exams.length === 1 ? 'exam' : 'exams'}; each is a design without dates, given to people as a sitting`}
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
          </form>
        )}
      </PageTitle>
      {exams.length === 0 ? (
        <Empty title="No exams yet">
          An exam is composed of fixed questions and of draws, such as “Draw 3 from Tides › Heights, 2 points each”.
          Type a title above to begin one.
        </Empty>
      ) : (
        <Sheet label="Exams">
          {exams.length > 8 && (
            <div className="border-b border-line p-2">
              <TextField
                label="Find exams"
                quiet
                placeholder="Find exams"
                type="search"
                value={find}
                onChange={(event) => setFind(event.target.value)}
                className="max-w-sm"
              />
            </div>
          )}
          <ul>
            {shown.map((exam) => (
              <li key={exam.id} className="border-b border-line last:border-b-0">
                <Link
                  href={`${base}/${exam.id}`}
                  className="grid grid-cols-[1fr_7rem_7rem_7rem] items-baseline gap-3 px-4 py-2 hover:bg-prussian-wash"
                >
                  <span className="font-serif text-lg">{exam.title}</span>
                  <span className="text-right text-ink-2 tabular-nums">{exam.questions} questions</span>
                  <span className="text-right text-ink-2 tabular-nums">{pointsText(exam.points)} points</span>
                  <span className="text-right text-ink-2 tabular-nums">
                    {exam.sittings === 0
                      ? 'never given'
                      : `${exam.sittings} ${exam.sittings === 1 ? 'sitting' : 'sittings'}`}
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

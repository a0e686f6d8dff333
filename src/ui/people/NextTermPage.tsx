'use client';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { counted } from '@/core/base/words';
import type { NextTermPlan as Plan } from '@/server/term/nextTerm';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { TextField } from '../kit/Field';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { type TermEntered, TermFields } from './TermFields';

type Props = {
  base: string;
  begun: { name: string; term: string; before: TermEntered };
} & Commands<'planNextTerm' | 'beginNextTerm', 'courseId'>;

const whats: Record<string, string> = {
  opens: 'opens',
  lastStart: 'can be started until',
  due: 'is due',
  closes: 'closes',
};
const fields = ['name', 'term', 'firstDay', 'freeDays'];

/** The next term of a course in one step: what it is called and when it teaches, then every date before and after. */
export function NextTermPage({ base, begun, planNextTerm, beginNextTerm }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [name, setName] = useState(begun.name);
  const [term, setTerm] = useState('');
  const [before, setBefore] = useState(begun.before);
  const [after, setAfter] = useState<TermEntered>({ firstDay: '', freeDays: [] });
  const [staff, setStaff] = useState(true);
  const [planned, setPlanned] = useState<{ plan: Plan; for: string } | null>(null);
  const input = { name, term, before, after, staff };
  const now = JSON.stringify(input);
  const current = planned?.for === now ? planned.plan : null;
  const look = (event: FormEvent) => {
    event.preventDefault();
    void perform(
      () => planNextTerm(input),
      (value) => setPlanned({ plan: value, for: now }),
    );
  };
  return (
    <PageFrame width="sheet">
      <PageTitle
        back={{ href: base, name: 'People' }}
        title="Next term"
        note={
          <>
            A course of its own from {begun.name}
            {begun.term && `, ${begun.term}`}: same banks and sections, its exams copied, its sittings as drafts with
            new dates. Students and results stay here.
          </>
        }
      />
      <form onSubmit={look} className="space-y-4">
        <div className="grid gap-4 md:grid-cols-2">
          <Sheet label="This term" className="px-5 py-4">
            <h2 className="mb-2 text-lg">
              This term{begun.term && begun.term.toLowerCase() !== 'this term' && `: ${begun.term}`}
            </h2>
            <TermFields whose=" this term" term={before} onChange={setBefore} problems={problems} at="before." />
          </Sheet>
          <Sheet label="The new term" className="space-y-3 px-5 py-4">
            <h2 className="text-lg">The new term</h2>
            <div className="grid grid-cols-2 gap-3">
              <TextField
                label="Name of the course"
                value={name}
                onChange={(event) => setName(event.target.value)}
                problem={problemAt(problems, 'name')}
              />
              <TextField
                label="Term"
                placeholder="for example: Spring 2027"
                value={term}
                onChange={(event) => setTerm(event.target.value)}
                problem={problemAt(problems, 'term')}
              />
            </div>
            <TermFields whose=" in the new term" term={after} onChange={setAfter} problems={problems} at="after." />
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-prussian"
                checked={staff}
                onChange={(event) => setStaff(event.target.checked)}
              />
              Instructors, markers and guests come along
            </label>
          </Sheet>
        </div>
        <Problems
          problems={problemsBesides(
            problems,
            fields.flatMap((field) => [field, `before.${field}`, `after.${field}`]),
          ).filter((problem) => !/freeDays\.\d/.test(problem.field ?? ''))}
        />
        <div className="flex items-center gap-3">
          <Button type="submit" look={current ? 'plain' : 'main'} disabled={busy}>
            {current ? 'Work it out again' : 'Show what it would be'}
          </Button>
          {planned && !current && <span className="text-saffron">What stands below is not up to date any more.</span>}
        </div>
      </form>
      {planned && (
        <Planned
          plan={planned.plan}
          stale={current === null}
          busy={busy}
          term={term}
          onBegin={() =>
            void perform(
              () => beginNextTerm(input),
              ({ courseId }) => router.push(`/c/${courseId}/people/notes`),
            )
          }
        />
      )}
    </PageFrame>
  );
}

function Planned({
  plan,
  stale,
  busy,
  term,
  onBegin,
}: {
  plan: Plan;
  stale: boolean;
  busy: boolean;
  term: string;
  onBegin: () => void;
}) {
  const { leftBehind, sittings, exams } = plan;
  const behind = [
    `${leftBehind.students} students`,
    leftBehind.archivedExams && `${leftBehind.archivedExams} archived exams`,
    leftBehind.cancelledSittings && `${leftBehind.cancelledSittings} sittings`,
  ].filter(Boolean);
  return (
    <div className={`mt-6 space-y-4 ${stale ? 'opacity-60' : ''}`}>
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <p>
          {counted(exams.length, 'exam')}, {counted(sittings.length, 'sitting')}
          {plan.sections.length > 0 && `, sections ${plan.sections.join(', ')}`}, {counted(plan.staff, 'colleague')}.
          Left behind: {behind.join(', ')}.{' '}
          <span className="text-saffron">
            {counted(plan.looks, 'thing needs', 'things need')} a look; they will be listed in the new course.
          </span>
        </p>
        <Button
          look="main"
          disabled={busy}
          whyNot={stale ? 'Work it out again first: something was changed above.' : null}
          onClick={onBegin}
        >
          Begin {term}
        </Button>
      </div>
      <Sheet label="Sittings and their dates">
        <table className="w-full">
          <thead>
            <tr className="border-b border-line text-left text-sm text-ink-2 [&>th]:px-3 [&>th]:py-1.5 [&>th]:font-medium">
              <th>Sitting</th>
              <th>
                <span className="sr-only">What</span>
              </th>
              <th>Before</th>
              <th>After</th>
              <th>Teaching week</th>
            </tr>
          </thead>
          {sittings.map((one) => (
            <tbody key={one.id} className="border-b border-line last:border-b-0">
              {(one.moments.length ? one.moments : [null]).map((moment, i) => (
                <tr key={moment?.what ?? 'none'} className="align-baseline [&>td]:px-3 [&>td]:pt-1.5">
                  <td className="font-serif text-lg">{i === 0 && one.title}</td>
                  <td className="text-sm text-ink-2">{moment && whats[moment.what]}</td>
                  <td className="whitespace-nowrap text-ink-2">{moment?.before ?? 'no dates'}</td>
                  <td className="whitespace-nowrap">{moment?.after}</td>
                  <td className={moment?.moved ? 'text-saffron' : 'text-ink-2'}>{moment?.place}</td>
                </tr>
              ))}
              <tr>
                <td colSpan={5} className="px-3 pb-1.5">
                  <Looks looks={one.looks} />
                </td>
              </tr>
            </tbody>
          ))}
        </table>
        {sittings.length === 0 && <p className="px-4 py-3 text-ink-2">There are no sittings to take over.</p>}
      </Sheet>
      {exams.some((one) => one.looks.length > 0) && (
        <Sheet label="Exams that need a look" className="px-4 py-2">
          {exams
            .filter((one) => one.looks.length > 0)
            .map((one) => (
              <div key={one.id} className="py-1">
                <span className="font-serif text-lg">{one.title}</span>
                <Looks looks={one.looks} />
              </div>
            ))}
        </Sheet>
      )}
    </div>
  );
}

const Looks = ({ looks }: { looks: readonly string[] }) => (
  <ul className="text-sm text-saffron">
    {looks.map((text) => (
      <li key={text}>{text}</li>
    ))}
  </ul>
);

'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { inZone, momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { doorCodeShown, doorCodeSpoken } from '@/core/round/doorCode';
import type { AskedBefore, HeldRound } from '@/server/round/after';
import type { RoundBeginning } from '@/server/round/beginRound';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { PickOne } from '../kit/PickOne';
import { PickPiece } from '../kit/PickPiece';
import { Problems } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { AskNow } from './AskNow';
import { RoundSentences } from './RoundSentences';

type Props = {
  courseId: string;
  /** The exam that a round is to be begun with, where one came from it. */
  chosen: string | null;
  timeZone: string;
  origin: string;
  /** Null for whoever only reads. */
  beginning: RoundBeginning | null;
  rounds: HeldRound[];
  askedBefore: AskedBefore[];
  commands: Commands<'beginRound' | 'askNow' | 'changeDoor', 'courseId'>;
};

const mostExams = 8;

/** The rounds of a course: one to begin in two decisions, those that are open, and those that were held. */
export function RoundsPage({ courseId, chosen, timeZone, origin, beginning, rounds, askedBefore, commands }: Props) {
  const open = rounds.filter((one) => one.stoppedAt === null);
  const [ofExam, setOfExam] = useState('all');
  // One that nobody came into, or only made-up handsets, was a try.
  const stopped = rounds.filter((one) => one.stoppedAt !== null && one.people > 0);
  const examsHeld = [...new Map(stopped.filter((one) => !one.onTheSpot).map((one) => [one.examId, one.title]))].map(
    ([value, says]) => ({ value, says }),
  );
  const held = stopped.filter((one) => ofExam === 'all' || one.examId === ofExam);
  return (
    <PageFrame>
      <PageTitle
        title="Rounds"
        note="An exam given here and now: the class answers on whatever device it has, you watch and stop."
        back={{ href: `/c/${courseId}/sittings`, name: 'Sittings' }}
      />
      {open.length > 0 && (
        <Sheet label="Open now" className="mb-5 px-5 py-4">
          <h2 className="text-xl">Open now</h2>
          <ul className="mt-1 divide-y divide-line">
            {open.map((one) => (
              <li key={one.sittingId} className="flex flex-wrap items-center justify-between gap-3 py-2">
                <span>
                  <TextLink href={`/c/${courseId}/rounds/${one.sittingId}`}>{one.title}</TextLink>{' '}
                  <span className="text-ink-2">
                    {one.pace === 'led' ? 'led' : 'own pace'} · {one.people} in
                  </span>
                </span>
                <ButtonLink href={`/c/${courseId}/rounds/${one.sittingId}`}>Go on</ButtonLink>
              </li>
            ))}
          </ul>
        </Sheet>
      )}
      {beginning && (
        <div className="mb-6 grid items-start gap-5 lg:grid-cols-[3fr_2fr]">
          <Begin courseId={courseId} chosen={chosen} timeZone={timeZone} beginning={beginning} commands={commands} />
          <div className="space-y-5">
            <OnTheSpot courseId={courseId} commands={commands} />
            <DoorOfCourse door={beginning.door} origin={origin} commands={commands} />
          </div>
        </div>
      )}
      <Sheet label="Held" className="px-5 py-4">
        <div className="flex flex-wrap items-baseline justify-between gap-3">
          <h2 className="text-xl">Held</h2>
          {examsHeld.length > 1 && (
            <p>
              Rounds of{' '}
              <PickPiece
                label="Rounds of which exam"
                value={ofExam}
                options={[{ value: 'all', says: 'every exam' }, ...examsHeld]}
                onPick={setOfExam}
              />
            </p>
          )}
        </div>
        {held.length === 0 ? (
          <p className="text-ink-2">No round has been held yet.</p>
        ) : (
          <table className="mt-2 w-full">
            <thead>
              <tr className="border-b border-line text-left text-sm text-ink-2">
                <th className="py-1 font-normal">Round</th>
                <th className="py-1 font-normal">When</th>
                <th className="py-1 text-right font-normal">Took part</th>
                <th className="py-1 pl-4 font-normal">Right, on the mean</th>
              </tr>
            </thead>
            <tbody>
              {held.map((one) => (
                <tr key={one.sittingId} className="border-b border-line align-top">
                  <td className="py-1.5 pr-3">
                    <TextLink href={`/c/${courseId}/rounds/${one.sittingId}/after`}>{one.title}</TextLink>
                    <span className="text-ink-2"> {one.pace === 'led' ? 'led' : 'own pace'}</span>
                    {one.counts !== 'no' && <State ink="plain"> counts</State>}
                  </td>
                  <td className="py-1.5 pr-3 whitespace-nowrap">
                    {one.opens !== null && momentText(one.opens, timeZone)}
                  </td>
                  <td className="py-1.5 text-right tabular-nums">{one.people}</td>
                  <td className="py-1.5 pl-4">{one.mean === null ? '–' : <Percent percent={one.mean} />}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Sheet>
      {askedBefore.length > 0 && (
        <Sheet label="The same questions over rounds" className="mt-5 px-5 py-4">
          <h2 className="text-xl">The same questions over rounds</h2>
          <ul className="divide-y divide-line">
            {askedBefore.map((one) => (
              <li key={one.questionId} className="grid gap-x-6 py-2 sm:grid-cols-[1fr_1fr]">
                <span>{one.name}</span>
                <ul>
                  {one.rounds.map((round) => (
                    <li key={round.sittingId} className="flex items-baseline justify-between gap-4">
                      <TextLink href={`/c/${courseId}/rounds/${round.sittingId}/after`}>
                        {round.opens === null ? round.title : inZone(round.opens, timeZone, 'd MMM yyyy')}
                      </TextLink>
                      <span className="flex items-baseline gap-3 text-ink-2 tabular-nums">
                        {round.people} asked {round.mean === null ? '–' : <Percent percent={round.mean} />}
                      </span>
                    </li>
                  ))}
                </ul>
              </li>
            ))}
          </ul>
        </Sheet>
      )}
    </PageFrame>
  );
}

const Percent = ({ percent }: { percent: number }) => (
  <span className="inline-flex items-center gap-2 tabular-nums">
    <span className="h-2 w-20 bg-paper" aria-hidden="true">
      <span className="block h-2 bg-prussian" style={{ width: `${percent}%` }} />
    </span>
    {Math.round(percent)} %
  </span>
);

type BeginProps = Pick<Props, 'courseId' | 'chosen' | 'timeZone' | 'commands'> & { beginning: RoundBeginning };

/** Two decisions: which exam, and the choices of last time. */
function Begin({ courseId, chosen, timeZone, beginning, commands }: BeginProps) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const first = (id: string) => (id === chosen ? 1 : 0);
  const exams = [...beginning.exams].sort((a, b) => first(b.id) - first(a.id) || (b.lastHeld ?? 0) - (a.lastHeld ?? 0));
  const [examId, setExamId] = useState(exams[0]?.id ?? '');
  const [all, setAll] = useState(false);
  const [rules, setRules] = useState(beginning.rules);
  const [sectionId, setSectionId] = useState<string | null>(null);
  const shown = all ? exams : exams.slice(0, mostExams);
  const begin = () =>
    void perform(
      () => commands.beginRound({ examId, rules, sectionId }),
      ({ sittingId }) => router.push(`/c/${courseId}/rounds/${sittingId}`),
      { readsAnew: false },
    );
  return (
    <Sheet label="Begin a round" className="px-5 py-4">
      <h2 className="text-xl">Begin a round</h2>
      {exams.length === 0 ? (
        <p className="mt-2">
          There is no exam yet. <TextLink href={`/c/${courseId}/exams`}>Make one</TextLink>, or ask a single thing on
          the spot.
        </p>
      ) : (
        <>
          <PickOne
            legend="Exam"
            className="mt-2"
            value={examId}
            options={shown.map((one) => ({
              value: one.id,
              says: (
                <>
                  {one.title}{' '}
                  <span className="text-ink-2">
                    {counted(one.questions, 'question')}
                    {one.offScreen && ', a key alone'}
                    {one.lastHeld !== null && `, last held ${inZone(one.lastHeld, timeZone, 'd MMM yyyy')}`}
                  </span>
                </>
              ),
            }))}
            onPick={setExamId}
          />
          {exams.length > mostExams && !all && (
            <TextButton onClick={() => setAll(true)}>All {exams.length} exams</TextButton>
          )}
          <div className="mt-3 border-t border-line pt-3">
            <RoundSentences
              rules={rules}
              onChange={setRules}
              sections={beginning.sections}
              sectionId={sectionId}
              onSection={setSectionId}
            />
          </div>
          <Problems problems={problems} className="mt-3" />
          <Button look="main" className="mt-4" busy={busy} onClick={begin}>
            Begin now
          </Button>
          <p className="mt-3 text-sm text-ink-2">
            Do the questions stand on paper or on the board?{' '}
            <TextLink href={`/c/${courseId}/exams`}>Make an exam of a key alone</TextLink>, and begin it here.
          </p>
        </>
      )}
    </Sheet>
  );
}

function OnTheSpot({ courseId, commands }: Pick<Props, 'courseId' | 'commands'>) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  return (
    <Sheet label="Ask now" className="px-5 py-4">
      <h2 className="text-xl">Ask now</h2>
      <p className="mb-2 text-ink-2">A single thing without preparation. What is right you may say afterwards.</p>
      <AskNow
        busy={busy}
        act="Ask it now"
        onAsk={(thing) =>
          void perform(
            () => commands.askNow(thing),
            ({ sittingId }) => router.push(`/c/${courseId}/rounds/${sittingId}`),
            { readsAnew: false },
          )
        }
      />
      <Problems problems={problems} className="mt-2" />
    </Sheet>
  );
}

/** The door code, how it is said aloud, and the way to change it. */
function DoorOfCourse({ door, origin, commands }: Pick<Props, 'origin' | 'commands'> & { door: string | null }) {
  const { perform, problems, busy } = usePerform();
  const [asks, setAsks] = useState(false);
  return (
    <Sheet label="Door code" className="px-5 py-4">
      <h2 className="text-xl">Door code</h2>
      {door === null ? (
        <p className="text-ink-2">The course gets one with its first round; it stays the same all term.</p>
      ) : (
        <>
          <p className="font-mono text-2xl">{doorCodeShown(door)}</p>
          <p className="text-ink-2">Said aloud: {doorCodeSpoken(door)}</p>
          <p className="mt-1 text-ink-2">
            Typed at <span className="font-mono text-sm">{origin.replace(/^https?:\/\//, '')}/in</span>
          </p>
          <TextButton className="mt-1" onClick={() => setAsks(true)}>
            Change it
          </TextButton>
          <Problems problems={problems} className="mt-2" />
          {asks && (
            <Decision
              title="Change the door code?"
              act="Change it"
              busy={busy}
              onAct={() =>
                void perform(
                  () => commands.changeDoor(),
                  () => setAsks(false),
                )
              }
              onClose={() => setAsks(false)}
            >
              <p>
                The code that stands on walls and in messages now leads nowhere from then on. Whoever is in stays in.
              </p>
            </Decision>
          )}
        </>
      )}
    </Sheet>
  );
}

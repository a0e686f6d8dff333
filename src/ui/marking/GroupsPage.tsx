'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { counted, pointsSaid, shortened } from '@/core/base/words';
import { rubricPoints } from '@/core/marking/marks';
import { toldApart } from '@/core/marking/toldApart';
import type { AnswersTogether, GroupedAnswer } from '@/server/marking/groups';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import type { Commands, InputOf } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextArea } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { QuestionBeside } from './QuestionBeside';
import { RubricMarks } from './RubricMarks';

type GroupCommands = Commands<'markGroup' | 'undoChange', 'courseId' | 'sittingId'>;

type Props = { back: { href: string; name: string }; together: AnswersTogether; commands: GroupCommands };

const steps = [1, 0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6, 0.55, 0.5];

/** Answers that are alike, marked in one act: the groups follow a slider, and each answer can be left out of its group. */
export function GroupsPage({ back, together, commands }: Props) {
  const router = useRouter();
  const [least, setLeast] = useState(together.least);
  const [picked, setPicked] = useState<string | null>(null);
  const [done, setDone] = useState<{ said: string; auditId: number } | null>(null);
  const { perform, problems, busy, setProblems } = usePerform();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const slide = (value: number) => {
    setLeast(value);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => router.replace(`?least=${value}`, { scroll: false }), 250);
  };
  const { groups, question } = together;
  const told = useMemo(() => toldApart(groups.map((group) => group.text)), [groups]);
  const waiting = groups.reduce((sum, one) => sum + one.answers.filter((answer) => answer.points === null).length, 0);
  const all = groups.reduce((sum, one) => sum + one.answers.length, 0);
  const open = groups.find((one) => one.text === picked) ?? groups.find((one) => one.answers.some(waits)) ?? groups[0];
  const takeBack = (auditId: number) =>
    perform(
      () => commands.undoChange(auditId),
      () => setDone(null),
    );
  return (
    <PageFrame>
      <PageTitle
        title={`Alike answers together: ${question.name}`}
        back={back}
        note={`${together.sittingTitle} · ${counted(groups.length, 'group')} of ${counted(all, 'answer')} · ${waiting} ${waiting === 1 ? 'waits' : 'wait'} for a mark`}
      />
      <div className="mb-3 flex flex-wrap items-center gap-3 text-sm">
        <label htmlFor="least" className="font-medium">
          How alike
        </label>
        <input
          id="least"
          type="range"
          min={0.5}
          max={1}
          step={0.05}
          value={least}
          list="least-steps"
          aria-valuetext={alikeSaid(least)}
          onChange={(event) => slide(Number(event.target.value))}
          className="w-56 accent-prussian"
        />
        <datalist id="least-steps">
          {steps.map((step) => (
            <option key={step} value={step} />
          ))}
        </datalist>
        <span className="text-ink-2">{alikeSaid(least)}</span>
      </div>
      {done && (
        <Done className="mb-3" onUndo={() => void takeBack(done.auditId)}>
          {done.said}
        </Done>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[22rem_1.3fr_1fr]">
        <Sheet label="Groups" className="max-h-[70vh] overflow-y-auto">
          <ul>
            {groups.map((group, at) => {
              const open_ = group === open;
              const left = group.answers.filter(waits).length;
              return (
                <li key={group.answers[0]?.slotId} className="border-b border-line last:border-b-0">
                  <button
                    type="button"
                    aria-current={open_ ? 'true' : undefined}
                    onClick={() => {
                      setPicked(group.text);
                      setProblems([]);
                    }}
                    className={`flex w-full items-baseline gap-2 px-3 py-1.5 text-left ${open_ ? 'bg-prussian-wash' : 'hover:bg-prussian-wash'}`}
                  >
                    <span className="w-7 text-right tabular-nums">{group.answers.length}</span>
                    <span className="line-clamp-2 min-w-0 flex-1 font-serif leading-snug" title={group.text}>
                      {told[at] || 'no words'}
                    </span>
                    {left > 0 ? <State ink="hand">{left} wait</State> : <State ink="done">marked</State>}
                  </button>
                </li>
              );
            })}
          </ul>
        </Sheet>
        {open && (
          <OneGroup
            key={`${together.least}/${open.answers.map((one) => `${one.slotId}${one.markId}`).join()}`}
            group={open}
            outOf={together.outOf}
            rubric={question.rubric}
            busy={busy}
            problems={problems}
            onMark={(input, said) =>
              perform(
                () => commands.markGroup(input),
                ({ auditId }) => {
                  setPicked(null);
                  setDone({ said, auditId });
                },
              ).then((marked) => marked !== null)
            }
          />
        )}
        <QuestionBeside question={question} document={null} />
      </div>
    </PageFrame>
  );
}

const waits = (answer: GroupedAnswer) => answer.points === null;

const alikeSaid = (least: number): string =>
  least >= 1 ? 'the same but for case, spaces and punctuation' : `at least ${Math.round(least * 100)} % alike`;

type GroupProps = {
  group: AnswersTogether['groups'][number];
  outOf: number;
  rubric: AnswersTogether['question']['rubric'];
  busy: boolean;
  problems: ReturnType<typeof usePerform>['problems'];
  /** @returns whether they are marked now */
  onMark: (input: InputOf<'markGroup'>, said: string) => Promise<boolean>;
};

/** A mark being typed for a group. */
type Typed = { points: string; comment: string; levels: Record<string, string> };

/** The answers of a group, those that wait ticked, and the mark that all ticked ones get. */
function OneGroup({ group, outOf, rubric, busy, problems, onMark }: GroupProps) {
  const [ticked, setTicked] = useState(() => new Set(group.answers.filter(waits).map((one) => one.slotId)));
  const typed = useWritten<Typed>(
    `group/${group.text.slice(0, 80)}`,
    ({ points, comment }) => (points.trim() || comment.trim() ? 'A mark for answers that are alike' : null),
    { points: '', comment: '', levels: {} },
  );
  const { points, comment, levels } = typed.value;
  const set = (part: Partial<Typed>) => typed.change((before) => ({ ...before, ...part }));
  const [wrong, setWrong] = useState('');
  const chosen = group.answers.filter((one) => ticked.has(one.slotId));
  const mark = () => {
    const entered = numberIn(points);
    const made = rubric && rubricPoints(rubric, levels, outOf);
    const value = made !== null && Math.abs(made - entered) <= 0.005 ? made : entered;
    if (points.trim() === '' || !Number.isFinite(value)) {
      setWrong('Type the points as a number.');
      return;
    }
    setWrong('');
    const answers = chosen.map(({ slotId, revision, markId }) => ({ slotId, revision, before: markId }));
    void onMark(
      { points: value, comment, rubric: levels, answers },
      `${counted(chosen.length, 'answer')} like “${shortened(group.text, 40)}” ${chosen.length === 1 ? 'has' : 'have'} ${pointsSaid(value)} now.`,
    ).then((marked) => marked && typed.done());
  };
  return (
    <Sheet label="The group">
      <ul aria-label="Answers of the group" className="max-h-[45vh] overflow-y-auto px-4 py-2">
        {group.answers.map((one) => (
          <li key={one.slotId} className="flex items-baseline gap-2 border-b border-line py-1 last:border-b-0">
            <div className="min-w-0 flex-1">
              <Tick
                name={`Answer ${one.number}`}
                on={ticked.has(one.slotId)}
                onChange={(on) => {
                  const next = new Set(ticked);
                  if (on) next.add(one.slotId);
                  else next.delete(one.slotId);
                  setTicked(next);
                }}
              >
                <span className="font-serif break-words whitespace-pre-wrap">{one.text || 'no words'}</span>
              </Tick>
            </div>
            <span className="text-sm whitespace-nowrap text-ink-2 tabular-nums">
              {one.similarity < 1 && `${Math.round(one.similarity * 100)} % · `}
              {one.points === null ? 'waits' : pointsText(one.points)}
            </span>
          </li>
        ))}
      </ul>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: Enter marks wherever the focus is in here */}
      <div
        className="space-y-3 border-t border-line px-4 py-3"
        onKeyDown={(event) => {
          const target = event.target as HTMLElement;
          if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey || target.tagName === 'INPUT')) return;
          event.preventDefault();
          if (chosen.length && !busy) mark();
        }}
      >
        {rubric && (
          <RubricMarks
            slotId={group.answers[0]?.slotId ?? ''}
            rubric={rubric}
            outOf={outOf}
            levels={levels}
            onPick={(criterionId, levelId) => {
              const next = { ...levels, [criterionId]: levelId };
              set({ levels: next });
              const made = rubricPoints(rubric, next, outOf);
              if (made !== null) set({ points: String(Math.round(made * 100) / 100) });
            }}
          />
        )}
        <div className="grid grid-cols-[8rem_1fr] gap-3">
          <NumberField
            label={`Points, 0 to ${pointsText(outOf)}`}
            autoComplete="off"
            value={points}
            onChange={(event) => set({ points: event.target.value })}
            problem={wrong || problemAt(problems, 'points')}
          />
          <TextArea
            label="Comment for all of them"
            rows={2}
            value={comment}
            onChange={(event) => set({ comment: event.target.value })}
            problem={problemAt(problems, 'comment')}
          />
        </div>
        <Problems problems={problemsBesides(problems, ['points', 'comment'])} />
        <Button
          look="main"
          busy={busy}
          whyNot={chosen.length === 0 ? 'Tick the answers that are to get the mark.' : null}
          onClick={mark}
        >
          Mark {counted(chosen.length, 'answer')}
        </Button>
      </div>
    </Sheet>
  );
}

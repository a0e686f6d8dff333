'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { Stroke } from '@/core/attempt/strokes';
import { randomName, seededRandom } from '@/core/base/random';
import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { moveLine, movePart, neighbourPlace } from '@/core/exam/arrangeDesign';
import { designPoints, type ExamDesign, type ExamLine, type ExamPart, lineCount } from '@/core/exam/design';
import type { PlanCheck } from '@/core/exam/planCheck';
import type { QuestionType } from '@/core/question/types';
import { Button, ButtonLink } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Sheet } from '../kit/Page';
import { PaperRuler } from '../kit/PaperRuler';
import { Problems } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';
import { RichEditor } from '../question/rich/RichEditor';
import { HardnessFields } from './HardnessFields';
import { type ExamLabels, LabelPieces } from './LabelPieces';
import { LookPieces } from './LookPieces';
import { PartSheet } from './PartSheet';
import { PlanDrag } from './PlanDrag';
import type { Choosable, Sources } from './PoolPieces';
import { type ExamQuestionLook, QuestionLookSection } from './QuestionLookSection';
import { SpreadTable } from './SpreadTable';

type Fixed = Record<string, { name: string; type: QuestionType }>;
type Exam = {
  id: string;
  title: string;
  revision: number;
  edit: number;
  labels: ExamLabels;
  frozen: boolean;
  /** How many scheduled sittings keep an earlier revision. */
  behind: number;
  design: ExamDesign;
  check: PlanCheck;
  fixed: Fixed;
  sources: Omit<Sources, 'choosable'>;
};

type Props = {
  base: string;
  exam: Exam;
  choosable: Choosable[];
  mayChange: boolean;
  save: Command<[input: unknown], { edit: number; revision: number; behind: number; check: PlanCheck; fixed: Fixed }>;
  give: Command<[], { sittingId: string }>;
  label: Command<[labels: ExamLabels], null>;
  lookThrough: Command<[], ExamQuestionLook>;
};

const pauseBeforeSaving = 500;

let made = 0;
/** An id for a part or line made in this browser. */
const freshId = () => {
  made += 1;
  return randomName(seededRandom(`${Date.now()}/${made}`, globalThis.crypto?.randomUUID?.() ?? ''), 12);
};

/** The plan of an exam: parts and lines as sentences, and beside them the plan check. Every change saves itself. */
export function ExamPlan({ base, exam, choosable, mayChange, save, give, label, lookThrough }: Props) {
  const router = useRouter();
  const { perform, problems: giveProblems, busy } = usePerform();
  const [title, setTitle] = useState(exam.title);
  const [design, setDesign] = useState(exam.design);
  const [check, setCheck] = useState(exam.check);
  const [fixed, setFixed] = useState(exam.fixed);
  const [revision, setRevision] = useState(exam.revision);
  const [behind, setBehind] = useState(exam.behind);
  const [state, setState] = useState<'saved' | 'waiting' | 'saving' | 'failed'>('saved');
  const [problems, setProblems] = useState<Problem[]>([]);
  const [look, setLook] = useState<ExamQuestionLook | null>(null);
  const edit = useRef(exam.edit);
  const newest = useRef({ title, design });
  const running = useRef(false);

  const store = async () => {
    if (running.current) return;
    running.current = true;
    const sent = newest.current;
    setState('saving');
    const answer = await save({ ...sent, edit: edit.current }).catch(() => null);
    running.current = false;
    if (!answer) {
      setState('failed');
      setProblems([{ code: 'busy', message: 'The server could not be reached. Your changes are kept on this page.' }]);
      return;
    }
    if (!answer.ok) {
      setState('failed');
      setProblems(answer.problems);
      return;
    }
    edit.current = answer.value.edit;
    setCheck(answer.value.check);
    setFixed(answer.value.fixed);
    setRevision(answer.value.revision);
    setBehind(answer.value.behind);
    setProblems([]);
    if (newest.current === sent) setState('saved');
    else void store();
  };
  const latestStore = useRef(store);
  latestStore.current = store;
  useEffect(() => {
    if (newest.current.title === title && newest.current.design === design) return;
    newest.current = { title, design };
    setState('waiting');
    const timer = setTimeout(() => void latestStore.current(), pauseBeforeSaving);
    return () => clearTimeout(timer);
  }, [title, design]);

  // The questions are looked through once the plan stands saved: it reads all their texts, which a save need not wait for.
  const seeAnew = useRef(lookThrough);
  seeAnew.current = lookThrough;
  const isSaved = state === 'saved';
  useEffect(() => {
    if (!mayChange || !isSaved) return;
    let gone = false;
    void seeAnew
      .current()
      .then((answer) => !gone && answer.ok && setLook(answer.value))
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [mayChange, isSaved]);

  const changePart = (part: ExamPart) =>
    setDesign({ ...design, parts: design.parts.map((one) => (one.id === part.id ? part : one)) });
  const shiftLine = (lineId: string, by: 1 | -1) => {
    const to = neighbourPlace(design, lineId, by);
    if (to) setDesign(moveLine(design, lineId, to));
  };
  const addPart = () =>
    setDesign({
      ...design,
      parts: [
        ...design.parts,
        {
          id: freshId(),
          title: `Part ${String.fromCharCode(65 + design.parts.length)}`,
          order: 'as-written',
          lines: [],
        },
      ],
    });
  const strokes = strokesOf(design);
  const total = designPoints(design);

  return (
    <div className="min-w-0">
      <div className="mb-4 flex flex-wrap items-end gap-x-4 gap-y-2">
        <div className="min-w-72 flex-1">
          <label className="sr-only" htmlFor="exam-title">
            Title of the exam
          </label>
          <input
            id="exam-title"
            value={title}
            readOnly={!mayChange}
            onChange={(event) => setTitle(event.target.value)}
            className="w-full border-b border-transparent bg-transparent font-serif text-2xl font-semibold hover:border-edge"
          />
          <p className="text-ink-2" role="status">
            Revision {revision} ·{' '}
            {{ saved: 'saved', waiting: 'not saved yet', saving: 'saving …', failed: 'not saved' }[state]}
            {exam.frozen &&
              revision === exam.revision &&
              ' · given in a sitting: a change makes the next revision, the sitting keeps this one'}
          </p>
          {(revision > 1 || behind > 0) && (
            <p className={behind ? 'text-saffron' : 'text-ink-2'}>
              {behind > 0 &&
                `${behind === 1 ? 'One sitting keeps' : `${behind} sittings keep`} an earlier revision. Should ${behind === 1 ? 'it' : 'they'} take this one up? `}
              <Link href={`${base}/exams/${exam.id}/revisions`} className="text-prussian underline">
                Revisions and what changed
              </Link>
            </p>
          )}
          <LabelPieces labels={exam.labels} mayChange={mayChange} label={label} />
        </div>
        {mayChange && (
          <>
            <ButtonLink href={`${base}/exams/${exam.id}/rehearsal`}>Rehearse</ButtonLink>
            <ButtonLink href={`/trial${base.slice(2)}/${exam.id}`}>Try it</ButtonLink>
            <ButtonLink href={`${base}/exams/${exam.id}/sample`}>Sample papers</ButtonLink>
            <Button
              look="main"
              disabled={busy || state !== 'saved'}
              onClick={() => void perform(give, ({ sittingId }) => router.push(`${base}/sittings/${sittingId}`))}
            >
              Give as a sitting
            </Button>
          </>
        )}
      </div>
      <Problems
        problems={[...problems.filter((problem) => !problem.field?.startsWith('design.parts')), ...giveProblems]}
        className="mb-3"
      />
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_300px]">
        <div className="min-w-0 space-y-4">
          <LookPieces design={design} shuffle={look?.shuffle ?? null} mayChange={mayChange} onChange={setDesign} />
          <PlanDrag design={design} onChange={setDesign}>
            {design.parts.map((part, p) => (
              <PartSheet
                key={part.id}
                design={design}
                part={part}
                number={p + 1}
                fixed={{ ...fixed, ...Object.fromEntries(choosable.map((one) => [one.id, one])) }}
                sources={{ ...exam.sources, choosable }}
                check={check}
                problems={problems.filter((problem) => problem.field?.startsWith(`design.parts.${p}.`))}
                mayChange={mayChange}
                writing={`${base}/exams/${exam.id}/new-question?part=${part.id}`}
                onChange={changePart}
                onRemove={
                  design.parts.length > 1
                    ? () => setDesign({ ...design, parts: design.parts.filter((one) => one.id !== part.id) })
                    : null
                }
                onMove={(by) => setDesign(movePart(design, part.id, p + by))}
                onMoveLine={shiftLine}
                makeId={freshId}
              />
            ))}
          </PlanDrag>
          {mayChange && (
            <Button look="quiet" onClick={addPart}>
              Add a part
            </Button>
          )}
          <SpreadTable
            design={design}
            check={check}
            sources={{ ...exam.sources, choosable }}
            mayChange={mayChange}
            onChange={setDesign}
          />
          {mayChange && (
            <Sheet label="Instructions" className="px-4 py-3">
              <RichEditor
                low
                label="Instructions to the student"
                value={design.instructions}
                onChange={(instructions) => setDesign({ ...design, instructions })}
              />
            </Sheet>
          )}
        </div>
        <aside aria-label="Plan check" className="space-y-4 lg:sticky lg:top-3">
          <Sheet className="px-4 py-3">
            <h2 className="text-lg">Plan check</h2>
            <dl className="mt-2 grid grid-cols-[1fr_auto] gap-y-1">
              <dt className="text-ink-2">Questions on every paper</dt>
              <dd className="text-right tabular-nums">{strokes.length}</dd>
              <dt className="text-ink-2">Points</dt>
              <dd className="text-right tabular-nums">{pointsText(total)}</dd>
              <dt className="text-ink-2">Expected minutes</dt>
              <dd className="text-right tabular-nums">{Math.round(check.spread.minutes)}</dd>
            </dl>
            <div className="mt-3 overflow-x-auto">
              <PaperRuler strokes={strokes} label="The paper" />
            </div>
            <div className="mt-3 border-t border-line pt-3" aria-live="polite">
              {check.problems.length === 0 ? (
                <p className="text-pine">Papers can be drawn: no line is short of questions.</p>
              ) : (
                <ul className="space-y-2 text-brick">
                  {check.problems.map((problem) => (
                    <li key={problem.message}>
                      {problem.lineIds[0] || problem.partId ? (
                        <a
                          className="underline"
                          href={`#${problem.lineIds[0] ? `line-${problem.lineIds[0]}` : `part-${problem.partId}`}`}
                        >
                          {problem.message}
                        </a>
                      ) : (
                        problem.message
                      )}
                    </li>
                  ))}
                </ul>
              )}
            </div>
            {mayChange && <QuestionLookSection courseBase={base} look={look} />}
            <HardnessFields design={design} check={check} mayChange={mayChange} onChange={setDesign} />
            <WorthField
              worth={design.worth}
              total={total}
              readOnly={!mayChange}
              onChange={(worth) => setDesign({ ...design, worth })}
            />
          </Sheet>
        </aside>
      </div>
    </div>
  );
}

/** What the exam is worth in the gradebook: its points unless a number is given. */
function WorthField({
  worth,
  total,
  readOnly,
  onChange,
}: {
  worth: number | null;
  total: number;
  readOnly: boolean;
  onChange: (worth: number | null) => void;
}) {
  const [text, setText] = useState(worth === null ? '' : pointsText(worth));
  return (
    <TextField
      label="Worth in the gradebook"
      className="mt-3"
      inputMode="decimal"
      readOnly={readOnly}
      placeholder={`${pointsText(total)}, its points`}
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        const value = Number(event.target.value.replace(',', '.'));
        if (event.target.value.trim() === '') onChange(null);
        else if (Number.isFinite(value) && value > 0) onChange(value);
      }}
      problem={text.trim() !== '' && !(Number(text.replace(',', '.')) > 0) ? 'A number above 0, or empty.' : null}
    />
  );
}

function strokesOf(design: ExamDesign): Stroke[] {
  let number = 0;
  return design.parts.flatMap((part) =>
    part.lines.flatMap((line: ExamLine) =>
      Array.from({ length: Math.min(lineCount(line) || 0, 500) }, (): Stroke => {
        number += 1;
        return { number, partTitle: part.title, answered: line.kind === 'fixed' };
      }),
    ),
  );
}

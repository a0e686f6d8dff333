'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import { counted, pointsSaid } from '@/core/base/words';
import type { Agreement } from '@/core/marking/agreement';
import type { SecondMarkingRule } from '@/server/marking/secondMarking';
import type { MarkedTwice, SecondMarkingPage as Page } from '@/server/marking/settle';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import type { Commands, InputOf } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { NumberPiece } from '../kit/NumberPiece';
import { numberIn } from '../kit/numberIn';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { PickPiece } from '../kit/PickPiece';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { SentencePiece } from '../kit/SentencePiece';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';

type SecondMarkingCommands = Commands<'setSecondMarking' | 'settle', 'courseId' | 'sittingId'>;

type Props = { back: { href: string; name: string }; page: Page; commands: SecondMarkingCommands };

const percent = (share: number) => `${Math.round(share * 100)} %`;
const kappaSaid = (kappa: number | null) => (kappa === null ? '–' : kappa.toFixed(2));

/** Who marks a second time, how far the two agree, and what is to be settled between them. */
export function SecondMarkingPage({ back, page, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [done, setDone] = useState('');
  const { rule, staff, whole, differences } = page;
  const set = (next: SecondMarkingRule | null) => void perform(() => commands.setSecondMarking(next));
  const open = differences.filter((one) => one.settled === null);
  const settled = differences.filter((one) => one.settled !== null);
  return (
    <PageFrame width="sheet">
      <PageTitle title={`Second marker: ${page.sittingTitle}`} back={back} />
      {done && (
        <Done className="mb-3" onUndo={null}>
          {done}
        </Done>
      )}
      <Sheet label="Rule" className="mb-4 px-5 py-3 leading-8">
        <PickPiece
          label="Who marks a second time"
          value={rule?.markerId ?? ''}
          options={[{ value: '', says: 'Nobody' }, ...staff.map((one) => ({ value: one.userId, says: one.name }))]}
          onPick={(markerId) =>
            set(markerId ? { share: rule?.share ?? 0.2, threshold: rule?.threshold ?? 1, markerId } : null)
          }
        />{' '}
        marks a second time
        {rule && (
          <>
            {', without seeing the first mark, '}
            <SentencePiece says={rule.share >= 1 ? 'all' : percent(rule.share)} label={`Share: ${percent(rule.share)}`}>
              {(close) => (
                <NumberPiece
                  label="Percent of the answers"
                  value={Math.round(rule.share * 100)}
                  onSet={(value) => set({ ...rule, share: value / 100 })}
                  onDone={close}
                />
              )}
            </SentencePiece>{' '}
            of the answers (
            {page.inShare === page.answers ? `all ${page.answers}` : `${page.inShare} of ${page.answers}, drawn by lot`}
            ). A difference of more than{' '}
            <SentencePiece says={pointsSaid(rule.threshold)} label={`Threshold: ${pointsSaid(rule.threshold)}`}>
              {(close) => (
                <NumberPiece
                  label="Points"
                  value={rule.threshold}
                  onSet={(threshold) => set({ ...rule, threshold })}
                  onDone={close}
                />
              )}
            </SentencePiece>{' '}
            is settled here; below that the first mark counts
          </>
        )}
        .{busy && <span className="text-sm text-ink-2"> Saving …</span>}
        <Problems problems={problems} />
      </Sheet>
      <Sheet label="Agreement" className="mb-4">
        <table className="w-full [&_td]:px-5 [&_th]:px-5">
          <caption className="px-5 py-2 text-left font-serif text-lg">How far they agree</caption>
          <thead>
            <tr className="border-b border-line text-left text-sm text-ink-2">
              <th className="py-1 font-medium">Question</th>
              <th className="py-1 text-right font-medium">Marked by both</th>
              <th className="py-1 text-right font-medium">Exactly</th>
              <th className="py-1 text-right font-medium">Within a point</th>
              <th className="py-1 text-right font-medium" title="Quadratic weighted kappa">
                Kappa
              </th>
            </tr>
          </thead>
          <tbody>
            {page.questions.map((one) => (
              <AgreementRow key={one.questionId} name={one.name} agreement={one.agreement} />
            ))}
            {page.questions.length > 1 && <AgreementRow name="All together" agreement={whole} />}
          </tbody>
        </table>
        <p className="border-t border-line px-5 py-1.5 text-sm text-ink-2">
          Kappa, quadratic weighted: 1 is full agreement, 0 is what chance would give.
        </p>
      </Sheet>
      <h2 className="mb-2 text-xl">
        {open.length === 0 ? 'Nothing to settle' : `${counted(open.length, 'difference')} to settle`}
      </h2>
      <div className="space-y-3">
        {open.map((one) => (
          <ToSettle
            key={`${one.slotId}/${one.markId}`}
            one={one}
            settle={(input) => commands.settle(one.slotId, input)}
            onDone={(points) => setDone(`Settled at ${pointsSaid(points)}.`)}
          />
        ))}
      </div>
      {settled.length > 0 && (
        <details className="mt-4 border border-line bg-sheet px-5 py-3">
          <summary className="text-prussian">{counted(settled.length, 'difference')} settled</summary>
          <ul className="mt-2">
            {settled.map((one) => (
              <Settled
                key={`${one.slotId}/${one.markId}`}
                one={one}
                timeZone={page.timeZone}
                settle={(input) => commands.settle(one.slotId, input)}
                onDone={(points) => setDone(`Settled at ${pointsSaid(points)}.`)}
              />
            ))}
          </ul>
        </details>
      )}
    </PageFrame>
  );
}

const AgreementRow = ({ name, agreement }: { name: string; agreement: Agreement }) => (
  <tr className="border-b border-line last:border-b-0">
    <td className="py-1.5">{name}</td>
    <td className="text-right tabular-nums">{agreement.answers}</td>
    <td className="text-right tabular-nums">{agreement.answers ? percent(agreement.exact) : '–'}</td>
    <td className="text-right tabular-nums">{agreement.answers ? percent(agreement.withinOne) : '–'}</td>
    <td className="text-right tabular-nums">{kappaSaid(agreement.kappa)}</td>
  </tr>
);

type SettleProps = {
  one: MarkedTwice;
  settle: (input: InputOf<'settle'>) => ReturnType<SecondMarkingCommands['settle']>;
  onDone: (points: number) => void;
};

/** A difference that was settled: at what, by whom, and the way to settle it anew. */
function Settled({ one, timeZone, settle, onDone }: SettleProps & { timeZone: string }) {
  const [again, setAgain] = useState(false);
  if (!one.settled) return null;
  return (
    <li className="border-t border-line py-2">
      <p>
        <span className="font-medium">{one.questionName}</span>: {one.first.by} {pointsText(one.first.points)},{' '}
        {one.second.by} {pointsText(one.second.points)}; settled at {pointsSaid(one.settled.points)} of{' '}
        {pointsText(one.outOf)}
        {one.settled.comment && `, “${one.settled.comment}”`}
      </p>
      <p className="truncate font-serif text-sm text-ink-2">{one.text}</p>
      <p className="text-sm text-ink-2">
        {one.settled.by}, {momentText(one.settled.at, timeZone)}{' '}
        <TextButton className="ml-2" aria-expanded={again} onClick={() => setAgain(!again)}>
          Settle anew
        </TextButton>
      </p>
      {again && <ToSettle one={one} settle={settle} onDone={onDone} />}
    </li>
  );
}

function ToSettle({ one, settle, onDone }: SettleProps) {
  const { perform, problems, busy, setProblems } = usePerform();
  const typed = useWritten(
    `settle/${one.slotId}`,
    ({ points, comment }) =>
      points.trim() || comment.trim() ? `A difference being settled: ${one.questionName}` : null,
    { points: '', comment: '' },
  );
  const { points, comment } = typed.value;
  const send = (value: number) => {
    if (!Number.isFinite(value))
      setProblems([{ code: 'bad-input', field: 'points', message: 'Type the points as a number.' }]);
    else
      void perform(
        () => settle({ points: value, comment, revision: one.revision, before: one.markId }),
        () => {
          typed.done();
          onDone(value);
        },
      );
  };
  return (
    <Sheet label="A difference" className="px-5 py-3">
      <p className="max-h-40 overflow-y-auto font-serif whitespace-pre-wrap">{one.text}</p>
      <ul className="mt-2 grid gap-3 border-t border-line pt-2 sm:grid-cols-2">
        {[one.first, one.second].map((mark, i) => (
          <li key={mark.by}>
            <State ink={i === 0 ? 'now' : 'hand'}>
              {mark.by || 'First marker'}: {pointsText(mark.points)} of {pointsText(one.outOf)}
            </State>
            {mark.comment && <p className="text-sm text-ink-2">“{mark.comment}”</p>}
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex flex-wrap items-start gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          send(points.trim() === '' ? Number.NaN : numberIn(points));
        }}
      >
        <NumberField
          label={`Points, 0 to ${pointsText(one.outOf)}`}
          className="w-36"
          autoComplete="off"
          value={points}
          onChange={(event) => typed.change({ points: event.target.value, comment })}
          problem={problemAt(problems, 'points')}
        />
        <TextField
          label="Comment for the student instead of the first"
          className="min-w-60 flex-1"
          value={comment}
          onChange={(event) => typed.change({ points, comment: event.target.value })}
        />
        <div className="flex gap-2 pt-6">
          <Button onClick={() => send((one.first.points + one.second.points) / 2)} busy={busy}>
            The mean, {pointsText((one.first.points + one.second.points) / 2)}
          </Button>
          <Button type="submit" look="main" busy={busy}>
            Settle
          </Button>
        </div>
      </form>
      <Problems problems={problemsBesides(problems, ['points'])} className="mt-2" />
    </Sheet>
  );
}

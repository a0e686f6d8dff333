'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { RemarkingPolicy } from '@/core/marking/remarkingPolicy';
import type { RemarkingOutcomes, RemarkingPreview } from '@/server/marking/remarking';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextField } from '../kit/Field';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { Gain, RemarkingTable, shareOf } from './RemarkingTable';

type RemarkCommands = Commands<'applyRemarking' | 'undoChange' | 'publishReady', 'courseId'>;

type Props = {
  questionId: string;
  /** The address of the course. */
  base: string;
  back: { href: string; name: string };
  /** The question where its key is mended. */
  edit: string;
  page: RemarkingOutcomes;
  /** The sittings it is limited to; empty for all. */
  only: string[];
  commands: RemarkCommands;
};

const policies: Record<RemarkingPolicy, { says: string; means: string }> = {
  'new-key': {
    says: 'Mark by the new key',
    means: 'Every answer earns what the question says now; whoever was right by the old key only loses it.',
  },
  'either-key': {
    says: 'Old and new answers both earn',
    means: 'Each answer earns by whichever key gives it more: nobody loses by the new one.',
  },
  everyone: {
    says: 'Everyone earns its points',
    means: 'Also who left it empty, and whatever tries cost; in a part to choose from, whoever chose it.',
  },
  'left-out': {
    says: 'Take it out of the total',
    means: 'It neither earns nor counts as possible; a part to choose from asks for one of those that are left.',
  },
};

type Applied = {
  auditId: number;
  changed: number;
  /** The published results that differ now, by sitting. */
  toPublish: { sittingId: string; title: string; userIds: string[] }[];
};

const usualReason = 'The key of this question was wrong.';

/** A question marked anew: the four ways side by side with who gains and loses by each, the act, and publishing what it changed. */
export function RemarkingPage({ questionId, base, back, edit, page, only, commands }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const {
    value: reason,
    change: setReason,
    done: reasonSent,
  } = useWritten(
    'reason',
    (typed) => (typed.trim() && typed !== usualReason ? 'Why a question is marked anew' : null),
    usualReason,
  );
  const [done, setDone] = useState<Applied | null>(null);
  const [published, setPublished] = useState('');
  const [shown, setShown] = useState<RemarkingPolicy | null>(null);
  const { choices, outcomes } = page;
  const isOn = (id: string) => only.length === 0 || only.includes(id);
  const ask = (sittings: string[]) => {
    setDone(null);
    router.replace(sittings.length ? `?sittings=${sittings.map(encodeURIComponent).join(',')}` : '?', {
      scroll: false,
    });
  };
  const isSameKey = page.onPapers.every((number) => number === page.version);
  const apply = (outcome: RemarkingPreview) =>
    void perform(
      () => commands.applyRemarking(questionId, { policy: outcome.policy, sittingIds: only, reason, key: outcome.key }),
      (value) => {
        const toPublish = outcome.sittings.flatMap(({ sittingId, title }) => {
          const userIds = outcome.results.flatMap((one) =>
            one.published && one.sittingId === sittingId ? one.userId : [],
          );
          return userIds.length ? [{ sittingId, title, userIds }] : [];
        });
        setDone({ ...value, toPublish });
        setPublished('');
        setShown(null);
        reasonSent();
      },
    );
  const publish = ({ sittingId, title, userIds }: Applied['toPublish'][number]) =>
    void perform(
      () => commands.publishReady(sittingId, { expected: userIds.length, userIds }),
      (value) => {
        setPublished(
          `${published}${published && ' '}${counted(value.published, 'result')} of ${title} published again; each student is told what has changed and why.`,
        );
        setDone((now) => now && { ...now, toPublish: now.toPublish.filter((one) => one.sittingId !== sittingId) });
      },
    );
  const whole = outcomes.find((one) => one.policy === shown);
  return (
    <PageFrame>
      <PageTitle
        title={`Mark anew: ${page.questionName}`}
        back={back}
        note={`Papers hold version ${page.onPapers.join(', ')}; the key now is that of version ${page.version}`}
      />
      {done && (
        <Done
          className="mb-3"
          onUndo={() =>
            void perform(
              () => commands.undoChange(done.auditId),
              () => {
                setDone(null);
                setPublished('');
              },
            )
          }
        >
          {[
            `${counted(done.changed, 'answer earns', 'answers earn')} otherwise now.`,
            published,
            done.toPublish.length > 0 ? 'Published results that differ are flagged until the change is published.' : '',
          ]
            .filter(Boolean)
            .join(' ')}
        </Done>
      )}
      {done?.toPublish.map((one) => (
        <p key={one.sittingId} className="mb-3 flex flex-wrap items-center gap-3">
          <Button look="main" busy={busy} onClick={() => publish(one)}>
            Publish {counted(one.userIds.length, 'changed result')} of {one.title}
          </Button>
          <TextLink href={`${base}/sittings/${one.sittingId}/results`}>Look at the results first</TextLink>
        </p>
      ))}
      <Sheet label="Why and where" className="mb-4 flex flex-wrap items-start gap-x-6 gap-y-2 px-5 py-3">
        <TextField
          label="Why, told to the students"
          className="min-w-72 flex-1"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          problem={problemAt(problems, 'reason')}
        />
        {choices.length > 1 && (
          <fieldset>
            <legend className="text-sm font-medium">In which sittings</legend>
            {choices.map((one) => (
              <Tick
                key={one.sittingId}
                on={isOn(one.sittingId)}
                onChange={(on) => {
                  const next = choices
                    .map((other) => other.sittingId)
                    .filter((id) => (id === one.sittingId ? on : isOn(id)));
                  if (next.length) ask(next.length === choices.length ? [] : next);
                }}
              >
                {one.title}
              </Tick>
            ))}
          </fieldset>
        )}
        {isSameKey && (
          <p className="w-full text-sm text-saffron">
            The key has not been mended since: <TextLink href={edit}>open the question</TextLink> to mend it first.
          </p>
        )}
      </Sheet>
      <Problems problems={problemsBesides(problems, ['reason'])} className="mb-3" />
      <div className="grid gap-4 sm:grid-cols-2 xl:grid-cols-4">
        {outcomes.map((outcome) => (
          <Outcome
            key={outcome.policy}
            outcome={outcome}
            busy={busy}
            isShown={shown === outcome.policy}
            onShow={() => setShown(shown === outcome.policy ? null : outcome.policy)}
            onApply={() => apply(outcome)}
          />
        ))}
      </div>
      {whole && (
        <Sheet label="What would change" className="mt-4 px-5 py-3">
          <h2 className="mb-1 text-lg">{policies[whole.policy].says}: all that would change</h2>
          <RemarkingTable preview={whole} />
        </Sheet>
      )}
    </PageFrame>
  );
}

const mostNamed = 6;
const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;

/** One way of marking anew: whom it changes by name, what it makes of each sitting, and the act. */
function Outcome({
  outcome,
  busy,
  isShown,
  onShow,
  onApply,
}: {
  outcome: RemarkingPreview;
  busy: boolean;
  isShown: boolean;
  onShow: () => void;
  onApply: () => void;
}) {
  const { says, means } = policies[outcome.policy];
  const { changing, results, sittings } = outcome;
  return (
    <Sheet label={says} className="flex flex-col px-4 py-3">
      <h2 className="text-lg">{says}</h2>
      <p className="text-sm text-ink-2">{means}</p>
      <p className="mt-2 font-medium">
        {changing === 0 ? 'Nothing changes' : `${counted(changing, 'answer earns', 'answers earn')} otherwise`}
      </p>
      {sittings.map((one) => (
        <p key={one.sittingId} className="text-sm text-ink-2 tabular-nums">
          {one.title}: mean {percent(one.meanBefore)} → {percent(one.meanAfter)}
        </p>
      ))}
      <ul className="mt-1 mb-2 flex-1 text-sm tabular-nums">
        {results.slice(0, mostNamed).map((one) => (
          <li
            key={`${one.sittingId}/${one.userId}`}
            className="flex flex-wrap justify-between gap-x-3 border-t border-line py-0.5"
          >
            <span>{one.name}</span>
            <span>
              {pointsText(one.before.earned)} → {pointsText(one.after.earned)} of {pointsText(one.after.possible)}{' '}
              <Gain gain={shareOf(one.after) - shareOf(one.before)} />
            </span>
          </li>
        ))}
      </ul>
      {(results.length > 0 || outcome.byPerson > 0) && (
        <p className="mb-2 text-sm">
          <TextButton aria-expanded={isShown} onClick={onShow}>
            {results.length > mostNamed ? `All ${results.length}, and where they lie` : 'All that would change'}
            <span className="sr-only">: {says}</span>
          </TextButton>
        </p>
      )}
      <Button busy={busy} whyNot={changing === 0 ? 'Nothing would change.' : null} onClick={onApply}>
        Mark {counted(changing, 'answer')} anew<span className="sr-only">: {says}</span>
      </Button>
    </Sheet>
  );
}

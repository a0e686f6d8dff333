'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { RemarkingPolicy } from '@/core/marking/remarkingPolicy';
import type { RemarkingPreview } from '@/server/marking/remarking';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextField } from '../kit/Field';
import { PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { RemarkingTable } from './RemarkingTable';

type RemarkCommands = Commands<'applyRemarking' | 'undoChange', 'courseId'>;

type Props = {
  questionId: string;
  back: { href: string; name: string };
  /** The question where its key is mended. */
  edit: string;
  preview: RemarkingPreview;
  /** The sittings it is limited to; empty for all. */
  only: string[];
  commands: RemarkCommands;
};

const policies: { value: RemarkingPolicy; says: string; means: string }[] = [
  {
    value: 'new-key',
    says: 'Mark by the new key',
    means:
      'Every answer earns what the question as it stands now says; whoever was right by the old key only loses it.',
  },
  {
    value: 'either-key',
    says: 'Old and new answers both earn',
    means: 'Each answer earns what is better for it: nobody loses.',
  },
  {
    value: 'everyone',
    says: 'Everyone earns its points',
    means: 'Also who left it empty, and whatever tries cost; in a part to choose from, whoever chose it.',
  },
  {
    value: 'left-out',
    says: 'Take it out of the total',
    means: 'It neither earns nor counts as possible; a part to choose from asks for one of those that are left.',
  },
];

/** A question marked anew: how, where, exactly what that changes, and only then the act. */
export function RemarkingPage({ questionId, back, edit, preview, only, commands }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const {
    value: reason,
    change: setReason,
    done: reasonSent,
  } = useWritten('reason', (typed) => (typed.trim() ? 'Why a question is marked anew' : null), '');
  const [done, setDone] = useState<{ auditId: number; changed: number } | null>(null);
  const ask = (policy: RemarkingPolicy, sittings: string[]) => {
    setDone(null);
    router.replace(`?policy=${policy}${sittings.map((id) => `&sitting=${encodeURIComponent(id)}`).join('')}`, {
      scroll: false,
    });
  };
  const { policy, choices } = preview;
  const isOn = (id: string) => only.length === 0 || only.includes(id);
  const samePlace = preview.onPapers.every((number) => number === preview.version);
  return (
    <div className="min-w-0">
      <PageTitle
        title={`Mark anew: ${preview.questionName}`}
        back={back}
        note={`Papers hold version ${preview.onPapers.join(', ')}; the key now is that of version ${preview.version}`}
      />
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
          {counted(done.changed, 'answer earns', 'answers earn')} otherwise now. Published results that differ are
          flagged on the results of their sitting.
        </Done>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[22rem_1fr]">
        <Sheet label="How" className="px-4 py-3">
          <fieldset>
            <legend className="text-sm font-medium">What becomes of the marks</legend>
            {policies.map((one) => (
              <Tick key={one.value} radio name="policy" on={policy === one.value} onChange={() => ask(one.value, only)}>
                {one.says}
                <span className="block text-sm text-ink-2">{one.means}</span>
              </Tick>
            ))}
          </fieldset>
          {samePlace && (policy === 'new-key' || policy === 'either-key') && (
            <p className="mt-2 text-sm text-saffron">
              The key has not been mended since: <TextLink href={edit}>open the question</TextLink> and mend it first.
            </p>
          )}
          {choices.length > 1 && (
            <fieldset className="mt-3">
              <legend className="text-sm font-medium">In which sittings</legend>
              {choices.map((one) => (
                <Tick
                  key={one.sittingId}
                  on={isOn(one.sittingId)}
                  onChange={(on) => {
                    const next = choices
                      .map((other) => other.sittingId)
                      .filter((id) => (id === one.sittingId ? on : isOn(id)));
                    if (next.length) ask(policy, next.length === choices.length ? [] : next);
                  }}
                >
                  {one.title}
                </Tick>
              ))}
            </fieldset>
          )}
        </Sheet>
        <Sheet label="What would change" className="px-5 py-3">
          <h2 className="mb-1 text-lg">What would change</h2>
          <RemarkingTable preview={preview} />
          {preview.changing > 0 && (
            <form
              className="mt-4 flex flex-wrap items-start gap-3 border-t border-line pt-3"
              onSubmit={(event) => {
                event.preventDefault();
                void perform(
                  () => commands.applyRemarking(questionId, { policy, sittingIds: only, reason, key: preview.key }),
                  (value) => {
                    setDone(value);
                    reasonSent();
                  },
                );
              }}
            >
              <TextField
                label="Why, told to the students"
                className="min-w-60 flex-1"
                value={reason}
                onChange={(event) => setReason(event.target.value)}
                problem={problemAt(problems, 'reason')}
              />
              <Button type="submit" look="main" busy={busy} className="mt-6">
                Mark {counted(preview.changing, 'answer')} anew
              </Button>
            </form>
          )}
          <Problems problems={problemsBesides(problems, ['reason'])} className="mt-2" />
        </Sheet>
      </div>
    </div>
  );
}

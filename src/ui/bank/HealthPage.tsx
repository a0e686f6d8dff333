'use client';
import { type ReactNode, useState } from 'react';
import { everyQuestion } from '@/core/bank/questionFilter';
import { counted } from '@/core/base/words';
import { questionTypeNames } from '@/core/question/definitions';
import type { Finding } from '@/core/question/finding';
import type { BankHealth as Health, Named } from '@/server/bank/health';
import { Button } from '../kit/Button';
import { Decision } from '../kit/Decision';
import { Done } from '../kit/Done';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import type { BulkAsked } from './BulkBar';
import type { BankCommands } from './model';

type Props = {
  base: string;
  health: Health;
  commands: Pick<BankCommands, 'editMany' | 'retireQuestion' | 'undoChange'>;
};

/** What a look through the whole bank found, each with the way to mend it. */
export function HealthPage({ base, health, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [done, setDone] = useState<{ auditId: number | null; text: string } | null>(null);
  const [spreading, setSpreading] = useState(false);
  const edit = (change: BulkAsked, said: (changed: number) => string, ids?: string[]) =>
    perform(
      () => commands.editMany({ selection: ids ? { ids } : { filter: everyQuestion, but: [] }, change }),
      ({ changed, auditId }) => setDone({ auditId, text: said(changed) }),
    );
  const of = (kind: Finding['kind']) => health.findings.filter((one) => one.finding.kind === kind);
  const refers = of('refers');
  const pin = () => {
    const places = Object.fromEntries(
      refers.map(({ id, finding }) => [id, finding.kind === 'refers' ? finding.pin : []]),
    );
    void edit(
      { kind: 'pin', places },
      (n) => `Pinned in ${counted(n, 'question')}.`,
      refers.map((one) => one.id),
    );
  };
  const open = (one: { id: string; name: string }) => (
    <TextLink href={`${base}?all=yes&question=${one.id}`}>{one.name}</TextLink>
  );
  return (
    <PageFrame>
      <PageTitle
        title="Health of the bank"
        back={{ href: base, name: 'The bank' }}
        note={`${counted(health.questions, 'question')} looked at`}
      />
      <Problems problems={problems} className="mb-3" />
      {done && (
        <Done
          className="mb-3 border border-line"
          onUndo={
            done.auditId === null
              ? null
              : () =>
                  void perform(
                    () => commands.undoChange(done.auditId ?? 0),
                    () => setDone(null),
                  )
          }
        >
          {done.text}
        </Done>
      )}
      <Part
        title="Where right answers stand"
        said={
          health.places.questions === 0
            ? 'No single-choice questions.'
            : health.places.crowded
              ? 'They crowd together more than chance explains.'
              : 'They are spread as chance would have it.'
        }
        ill={health.places.crowded}
        act={
          health.places.questions > 0 && (
            <Button disabled={busy} onClick={() => setSpreading(true)}>
              Spread them evenly
            </Button>
          )
        }
      >
        {health.places.questions > 0 && <Places {...health.places} />}
      </Part>
      <Part
        title="Near-duplicates"
        said={
          health.duplicatesInAll === 0
            ? 'No two questions are nearly the same.'
            : `${counted(health.duplicatesInAll, 'pair')} of questions that are nearly the same.`
        }
        ill={health.duplicatesInAll > 0}
      >
        <ul>
          {health.duplicates.map(({ a, b, likeness }) => (
            <li key={`${a.id}${b.id}`} className="grid grid-cols-[auto_1fr_1fr] gap-x-4 border-t border-line py-2">
              <span className="text-sm text-ink-2 tabular-nums" title="Shared runs of three words">
                {Math.floor(likeness * 100)} %
              </span>
              {[a, b].map((one) => (
                <div key={one.id} className="min-w-0">
                  {open(one)} <span className="text-sm text-ink-2">{questionTypeNames[one.type].toLowerCase()}</span>
                  <p className="line-clamp-3 font-serif text-sm whitespace-pre-line">{one.text}</p>
                  <TextButton
                    className="text-sm"
                    disabled={busy}
                    onClick={() =>
                      void perform(
                        () => commands.retireQuestion(one.id),
                        ({ auditId }) => setDone({ auditId, text: `${one.name} retired.` }),
                      )
                    }
                  >
                    Retire this one
                  </TextButton>
                </div>
              ))}
            </li>
          ))}
        </ul>
        {health.duplicatesInAll > health.duplicates.length && (
          <p className="text-sm text-ink-2">The {health.duplicates.length} likest pairs are shown.</p>
        )}
      </Part>
      <Part
        title="Choices that refer to other choices while they are shuffled"
        said={
          refers.length === 0 ? 'None.' : `In ${counted(refers.length, 'question')}. Pinned, they keep their places.`
        }
        ill={refers.length > 0}
        act={
          refers.length > 0 && (
            <Button disabled={busy} onClick={pin}>
              Pin them all
            </Button>
          )
        }
      >
        <List items={refers} open={open}>
          {(finding) =>
            finding.kind === 'refers' ? finding.choices.map((choice) => `“${choice.text}”`).join(', ') : ''
          }
        </List>
      </Part>
      {(
        [
          ['no-right-answer', 'Questions that cannot be scored', 'No right answer, or something missing.'],
          [
            'no-alternative-text',
            'Pictures, sounds and videos without a text',
            'Who cannot see or hear them learns nothing.',
          ],
          ['unreachable', 'Points that nobody can earn', 'Another answer always comes first.'],
        ] as const
      ).map(([kind, title, why]) => {
        const found = of(kind);
        return (
          <Part
            key={kind}
            title={title}
            said={found.length === 0 ? 'None.' : `${counted(found.length, 'question')}. ${why}`}
            ill={found.length > 0}
          >
            <List items={found} open={open}>
              {(finding) =>
                finding.kind === 'no-alternative-text'
                  ? `${finding.count} without`
                  : finding.kind === 'refers'
                    ? ''
                    : finding.message
              }
            </List>
          </Part>
        );
      })}
      {spreading && (
        <Decision
          title="Spread the right answers over all places"
          act="Spread them"
          busy={busy}
          onAct={() => {
            setSpreading(false);
            void edit({ kind: 'spread' }, (n) => `The right answer moved in ${counted(n, 'question')}.`);
          }}
          onClose={() => setSpreading(false)}
        >
          <p>
            As many right answers come to stand in each place as can be, for questions of each length. Wrong choices
            keep their order, pinned ones their places. Questions that are not shuffled stay as they are written, and so
            do those in which a choice refers to others. Papers drawn already stay as they are. It can be undone.
          </p>
        </Decision>
      )}
    </PageFrame>
  );
}

function Part({
  title,
  said,
  ill,
  act,
  children,
}: {
  title: string;
  said: string;
  ill: boolean;
  act?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <Sheet label={title} className="mb-3 px-5 py-3">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div>
          <h2 className="text-lg">{title}</h2>
          <p className={ill ? 'text-saffron' : 'text-pine'}>{said}</p>
        </div>
        {act}
      </div>
      {children && <div className="mt-2">{children}</div>}
    </Sheet>
  );
}

function List({
  items,
  open,
  children,
}: {
  items: Health['findings'];
  open: (one: Named) => ReactNode;
  children: (finding: Finding) => string;
}) {
  return (
    <ul>
      {items.map((one) => (
        <li key={`${one.id}${one.finding.kind}`} className="flex gap-3 border-t border-line py-1.5">
          <span className="shrink-0">{open(one)}</span>
          <span className="min-w-0 text-ink-2">{children(one.finding)}</span>
        </li>
      ))}
    </ul>
  );
}

/** Each place with the share of right answers that stand there, and a notch where an even spread would end. */
function Places({ places, questions }: Health['places']) {
  return (
    <div>
      <p className="text-sm text-ink-2">
        Of {questions} single-choice questions, as written; the notch is an even spread.
      </p>
      <ol className="mt-1 max-w-xl space-y-1">
        {places.map(({ share, even }, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: places have no identity besides their number
          <li key={i} className="grid grid-cols-[2rem_1fr_3.5rem] items-center gap-2 text-sm">
            <span>{String.fromCharCode(65 + i)}</span>
            <span className="relative h-4 border-b border-line">
              <span
                className="absolute inset-y-0 left-0 bg-prussian"
                style={{ width: `${Math.min(100, share * 100)}%` }}
              />
              <span
                className="absolute -inset-y-0.5 w-0.5 bg-saffron"
                style={{ left: `${Math.min(100, even * 100)}%` }}
              />
            </span>
            <span className="text-right tabular-nums">{Math.round(share * 100)} %</span>
          </li>
        ))}
      </ol>
    </div>
  );
}

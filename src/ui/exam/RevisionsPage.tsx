'use client';
import { useState } from 'react';
import { momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { ExamRevisions, Revision } from '@/server/exam/revisions';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { Phase } from '../sitting/phase';

type Props = {
  base: string;
  examId: string;
  exam: ExamRevisions;
  mayChange: boolean;
} & Commands<'takeUpRevision', 'courseId' | 'examId'>;

/** Every revision of an exam with what changed, and the sittings that keep it: each can take up the newest. */
export function RevisionsPage({ base, examId, exam, mayChange, takeUpRevision }: Props) {
  const { perform, problems, busy } = usePerform();
  const [asked, setAsked] = useState<Revision['sittings'][number] | null>(null);
  const [done, setDone] = useState('');
  return (
    <PageFrame width="sheet">
      <PageTitle title="Revisions" back={{ href: `${base}/exams/${examId}`, name: exam.title }} />
      <Problems problems={problems} className="mb-3" />
      {done && (
        <p role="status" className="mb-3 text-pine">
          {done}
        </p>
      )}
      <ol className="space-y-4">
        {exam.revisions.map((revision) => (
          <li key={revision.number}>
            <Sheet label={`Revision ${revision.number}`} className="px-5 py-3">
              <h2 className="text-lg">
                Revision {revision.number}{' '}
                <span className="font-sans text-base font-normal text-ink-2">
                  begun {momentText(revision.createdAt, exam.timeZone)}
                </span>
              </h2>
              {revision.changes === null ? (
                <p className="text-ink-2">The first.</p>
              ) : revision.changes.length === 0 ? (
                <p className="text-ink-2">Nothing differs from the one before.</p>
              ) : (
                <ul className="mt-1 list-disc space-y-0.5 pl-5">
                  {revision.changes.map((change) => (
                    <li key={`${change.part}${change.says}`}>
                      {change.part && <span className="font-medium">{change.part}: </span>}
                      {change.says}
                    </li>
                  ))}
                </ul>
              )}
              {revision.sittings.map((one) => (
                <p
                  key={one.id}
                  className="mt-2 flex flex-wrap items-center justify-between gap-2 border-t border-line pt-2"
                >
                  <span>
                    <TextLink href={`${base}/sittings/${one.id}`}>{one.title}</TextLink> · <Phase phase={one.phase} /> ·{' '}
                    {counted(one.attempts, 'paper')} drawn
                  </span>
                  {mayChange && revision.number < exam.newest && (
                    <Button disabled={busy} onClick={() => setAsked(one)}>
                      Take up revision {exam.newest}
                    </Button>
                  )}
                </p>
              ))}
            </Sheet>
          </li>
        ))}
      </ol>
      {asked && (
        <Decision
          title={`Should ${asked.title} take up revision ${exam.newest}?`}
          act={`Take up revision ${exam.newest}`}
          busy={busy}
          onClose={() => setAsked(null)}
          onAct={() => {
            setAsked(null);
            void perform(
              () => takeUpRevision(asked.id),
              ({ revision }) => setDone(`${asked.title} takes its papers from revision ${revision} now.`),
            );
          }}
        >
          <p>
            {asked.attempts === 0
              ? 'No paper has been drawn yet: everyone gets the newest revision.'
              : `The ${counted(asked.attempts, 'paper')} already drawn stay as they are. Whoever starts from now on gets the newest revision, drawn from the bank of today.`}
          </p>
        </Decision>
      )}
    </PageFrame>
  );
}

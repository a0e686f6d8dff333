'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { TryOutOutcome } from '@/server/attempt/tryOut';
import type { Commands } from '../kit/commands';
import { Sheet } from '../kit/Page';
import { pageWidths } from '../kit/pageWidths';
import { TextLink } from '../kit/TextLink';
import { pagePort } from './pagePort';
import { TakingPage } from './TakingPage';

type Props = Commands<'openTryOut' | 'scoreTryOut', never>;

/** An exam of one question of each type that can be taken at any time; nothing of it is kept. */
export function TryOutPage({ openTryOut, scoreTryOut }: Props) {
  const [outcome, setOutcome] = useState<TryOutOutcome | null>(null);
  const [port] = useState(() =>
    pagePort(
      'try-out',
      { open: openTryOut, score: scoreTryOut },
      'The try-out keeps no files. In an exam you could hand one in here.',
      setOutcome,
    ),
  );
  if (outcome) {
    const { questions, answered, right, byHand } = outcome;
    return (
      <main className={`mx-auto px-4 py-6 ${pageWidths.reading}`}>
        <Sheet className="px-6 py-5 text-lg">
          <h1 className="text-2xl">That is how it goes</h1>
          <p className="mt-2">
            You answered {answered} of {counted(questions, 'question')}, and {right} of them in full
            {byHand > 0 && `; ${byHand === 1 ? 'one' : byHand} would be read by a person`}. Nothing of it is kept.
          </p>
          <p className="mt-2">
            In an exam a receipt stands here, with the time, the number of your answers and a code, and what comes next.
          </p>
          <p className="mt-4 text-base">
            <TextLink href="/my">Back to my exams</TextLink>
          </p>
        </Sheet>
      </main>
    );
  }
  return (
    <TakingPage
      port={port}
      title="Try-out"
      onEnded={() => undefined}
      above={() => (
        <p className="-mx-4 border-b border-line bg-saffron-wash px-4 py-2 text-base">
          A try-out: nothing counts, and nothing is kept. <TextLink href="/my">Back to my exams</TextLink>
        </p>
      )}
    />
  );
}

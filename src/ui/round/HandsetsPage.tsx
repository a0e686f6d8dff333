'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { counted } from '@/core/base/words';
import { mostHandsets } from '@/core/round/handsetOrder';
import type { Handsets } from '@/server/round/handsets';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';

type Props = {
  back: string;
  roundId: string;
  origin: string;
  handsets: Handsets;
  commands: Commands<'bringHandsets', 'courseId' | 'roundId'>;
};

/** How often the page looks at what they do, in milliseconds. */
const lookEvery = 2_000;

/** Made-up handsets: simulated devices with which a round is tried alone. */
export function HandsetsPage({ back, roundId, origin, handsets, commands }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [number, setNumber] = useState('20');
  const isOut = handsets.news !== null && handsets.isOpen;
  useEffect(() => {
    if (!isOut) return;
    const timer = setInterval(() => navigator.onLine && router.refresh(), lookEvery);
    return () => clearInterval(timer);
  }, [isOut, router]);
  const { news } = handsets;
  return (
    <PageFrame width="sheet">
      <PageTitle
        title="Made-up handsets"
        back={{ href: back, name: handsets.title }}
        note="Simulated devices, to try a round alone. They come in and answer as real ones do, are marked as made up, and enter no result."
      />
      <Sheet label="Bring some in" className="px-5 py-4">
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void perform(() => commands.bringHandsets({ count: numberIn(number) }));
          }}
        >
          <NumberField
            label="How many"
            hint={`Up to ${mostHandsets} in one round.`}
            className="w-40"
            value={number}
            onChange={(event) => setNumber(event.target.value)}
            problem={problemAt(problems, 'count')}
          />
          <Button
            type="submit"
            look="main"
            busy={busy}
            whyNot={handsets.isOpen ? null : 'This round has been stopped.'}
          >
            Bring them in
          </Button>
        </form>
        <Problems problems={problemsBesides(problems, ['count'])} className="mt-3" />
        <p className="mt-4" role="status">
          {handsets.inside === 0
            ? 'None has come in yet.'
            : `${counted(handsets.inside, 'made-up handset')} in this round.`}
          {news && ` ${counted(news.answered, 'answer was', 'answers were')} taken, ${news.refused} came too late.`}
        </p>
        <p className="mt-2 max-w-prose text-ink-2">
          Of six, three mostly agree with one another, one is quick, one is lazy and leaves questions out, one loses its
          connection now and then. None of them knows what is right.
        </p>
      </Sheet>
      {handsets.key !== null && handsets.door !== null && handsets.isOpen && (
        <Sheet label="By command" className="mt-5 px-5 py-4">
          <h2 className="text-xl">By command</h2>
          <p>Others come in from any machine that reaches this address:</p>
          <p className="mt-1 font-mono text-sm break-all">
            npm run handsets -- &apos;{origin}/in/made-up?code={handsets.door}&amp;round={roundId}&amp;key=
            {handsets.key}&apos; 30
          </p>
        </Sheet>
      )}
    </PageFrame>
  );
}

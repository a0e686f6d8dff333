'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { OpenSitting } from '@/server/sitting/openSitting';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { Problems } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';

type Props = {
  base: string;
  open: OpenSitting;
  commands: Commands<'callOffSitting' | 'redraftSitting' | 'removeSitting', 'courseId' | 'sittingId'>;
  /** Called with what is to be said of what was done. */
  onDone: (said: string) => void;
};

/** What puts an end to a sitting that nobody has begun: calling it off, making it a draft again, removing it. */
export function EndSitting({ base, open, commands, onDone }: Props) {
  const { perform, problems, busy } = usePerform();
  const [asking, setAsking] = useState<'call-off' | 'remove' | null>(null);
  const router = useRouter();
  const { sitting, audience } = open;
  const isCalledOff = sitting.state === 'cancelled';
  const close = () => setAsking(null);
  return (
    <>
      {isCalledOff && (
        <Button
          disabled={busy}
          onClick={() =>
            void perform(
              () => commands.redraftSitting(),
              () => onDone('It is a draft again: change it, and schedule it anew.'),
            )
          }
        >
          Make it a draft again
        </Button>
      )}
      {(isCalledOff || sitting.state === 'draft') && (
        <Button look="grave" onClick={() => setAsking('remove')}>
          Remove
        </Button>
      )}
      {sitting.state === 'scheduled' && open.phase !== 'closed' && (
        <Button
          look="grave"
          whyNot={
            audience.some((student) => student.attempts > 0)
              ? 'It has been begun: it can be closed, and not called off.'
              : null
          }
          onClick={() => setAsking('call-off')}
        >
          Call it off
        </Button>
      )}
      {asking === 'call-off' && (
        <Decision
          title={`Call ${sitting.title} off?`}
          act="Call it off"
          look="grave"
          busy={busy}
          onClose={close}
          onAct={() =>
            void perform(
              () => commands.callOffSitting(),
              ({ told }) => {
                onDone(`It is called off, and ${counted(told, 'student has', 'students have')} been told.`);
                close();
              },
            )
          }
        >
          <p>
            {counted(audience.length, 'student')} {audience.length === 1 ? 'is' : 'are'} told that it does not take
            place. Nobody can start it any more, and it leaves the gradebook. It can be made a draft again.
          </p>
          <Problems problems={problems} />
        </Decision>
      )}
      {asking === 'remove' && (
        <Decision
          title={`Remove ${sitting.title}?`}
          act="Remove it"
          look="grave"
          busy={busy}
          onClose={close}
          onAct={() =>
            void perform(
              () => commands.removeSitting(),
              () => router.push(`${base}/sittings`),
            )
          }
        >
          <p>Its rules, dates and arrangements are gone for good. The exam itself stays.</p>
          <Problems problems={problems} />
        </Decision>
      )}
    </>
  );
}

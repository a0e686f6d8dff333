'use client';
import type { HeldBack } from '@/server/round/grid';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Problems } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';

type Props = { held: HeldBack; commands: Commands<'acknowledge', 'courseId' | 'sittingId'> };

/** What devices are not told of what is right, because others may be writing the same questions; and taking that on. */
export function HeldBackSaid({ held, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  if (held.length === 0) return null;
  return (
    <div role="status" className="mb-4 border-l-2 border-saffron pl-3">
      {held.map(({ key, said }) => (
        <p key={key} className="mb-1 text-saffron">
          {said}
        </p>
      ))}
      <p className="mb-2 text-ink-2">
        Until then devices are not told it when the round is over. What you show on the wall is yours to decide.
      </p>
      <Button
        busy={busy}
        onClick={() =>
          void perform(async () => {
            for (const { key } of held) {
              const taken = await commands.acknowledge(key);
              if (!taken.ok) return taken;
            }
            return { ok: true, value: null };
          })
        }
      >
        Tell them all the same
      </Button>
      <Problems problems={problems} className="mt-2" />
    </div>
  );
}

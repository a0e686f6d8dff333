import { inZone } from '@/core/base/time';
import type { LogLine } from '@/server/room/roomLog';
import { Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';
import type { RoomCommands } from './roomCommands';

const kinds: Record<LogLine['kind'], { name: string; ink: string }> = {
  event: { name: '', ink: '' },
  incident: { name: 'Incident', ink: 'text-brick' },
  message: { name: 'Message', ink: 'text-prussian' },
  refused: { name: 'Refused', ink: 'text-saffron' },
};

/** Everything that happened in the room, the newest first. */
export function RoomLog({
  log,
  zone,
  settleIncident,
}: {
  log: readonly LogLine[];
  zone: string;
  settleIncident: RoomCommands['settleIncident'];
}) {
  const { perform, problems, busy } = usePerform();
  return (
    <Sheet label="Log" className="mt-4">
      <h2 className="px-4 pt-2 text-lg">Log</h2>
      <Problems problems={problems} className="px-4" />
      {log.length === 0 ? (
        <p className="px-4 pb-3 text-ink-2">Everything that happens in the room is written down here.</p>
      ) : (
        <ol
          className="max-h-72 overflow-y-auto text-sm"
          aria-label="Log of the room"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard
          tabIndex={0}
        >
          {log.map((line) => (
            <li
              key={line.key}
              className="grid grid-cols-[5.5rem_12rem_1fr_auto] gap-3 border-t border-line px-4 py-1.5 [contain-intrinsic-size:auto_30px] [content-visibility:auto]"
            >
              <time className="text-ink-2 tabular-nums" dateTime={new Date(line.at).toISOString()}>
                {inZone(line.at, zone, 'HH:mm:ss')}
              </time>
              <span className="truncate">{line.about ?? 'the room'}</span>
              <span className="min-w-0 break-words">
                {kinds[line.kind].name && (
                  <span className={`font-medium ${kinds[line.kind].ink}`}>{kinds[line.kind].name}: </span>
                )}
                {line.what}
              </span>
              <span className="text-ink-2">
                {line.by && `by ${line.by}`}
                {line.open !== null && (
                  <TextButton
                    className="ml-2"
                    disabled={busy}
                    onClick={() => {
                      const { open } = line;
                      if (open !== null) void perform(() => settleIncident(open));
                    }}
                  >
                    Settled<span className="sr-only">: {line.what}</span>
                  </TextButton>
                )}
              </span>
            </li>
          ))}
        </ol>
      )}
    </Sheet>
  );
}

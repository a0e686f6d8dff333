'use client';
import { counted } from '@/core/base/words';
import type { SheetsToRead } from '@/server/answerSheet/bringPages';
import { Button, ButtonLink } from '../kit/Button';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { useCamera } from './useCamera';

type Props = { title: string; here: string; sheets: SheetsToRead };

const hints = {
  nothing: 'Hold a sheet before the camera, all of it in view.',
  steady: 'Seen. Hold it still …',
  whole: 'Seen, but not all of it: its four corner marks have to be in view.',
  had: 'Has it. The next sheet, please.',
  elsewhere: 'This sheet is none of this sitting.',
} as const;

/** Sheets held before the camera of the device, one after the other. */
export function CameraPage({ title, here, sheets }: Props) {
  const { state, taken, video, start, stop } = useCamera(`${here}/bring`, sheets);
  const isOn = state.kind === 'on';
  return (
    <PageFrame width="reading">
      <PageTitle title={`Before the camera: ${title}`} back={{ href: here, name: 'Answer sheets' }}>
        {taken.length > 0 && (
          <ButtonLink look="main" href={`${here}/review`}>
            Look through
          </ButtonLink>
        )}
      </PageTitle>
      <Sheet label="Camera" className="px-4 py-4">
        <p role="status" className={`min-h-12 text-lg ${isOn && state.hint === 'had' ? 'text-pine' : ''}`}>
          {isOn ? hints[state.hint] : state.kind === 'starting' ? 'The camera is coming on …' : 'The camera is off.'}
        </p>
        {state.kind === 'failed' && (
          <p role="alert" className="mb-2 text-brick">
            {state.why}
          </p>
        )}
        {(isOn || state.kind === 'starting') && (
          <video
            ref={video}
            muted
            playsInline
            aria-label="What the camera sees"
            className="max-h-[60vh] w-full border border-line bg-ink object-contain"
          />
        )}
        <p className="mt-3 flex flex-wrap items-center gap-3">
          {isOn ? (
            <Button onClick={stop}>Stop</Button>
          ) : (
            <Button look="main" whyNot={state.kind === 'starting' ? 'It is coming on.' : null} onClick={start}>
              Start the camera
            </Button>
          )}
          <span className="text-ink-2">{counted(taken.length, 'page')} taken</span>
        </p>
        <ol aria-label="Taken" className="mt-2 text-sm">
          {taken.map(({ code, name }, i) => (
            <li key={code} className="border-t border-line py-1">
              <span className="mr-2 text-ink-2 tabular-nums">{taken.length - i}</span>
              {name ?? 'a blank'}
            </li>
          ))}
        </ol>
      </Sheet>
    </PageFrame>
  );
}

'use client';
import { counted } from '@/core/base/words';
import type { SheetsToRead } from '@/server/answerSheet/bringPages';
import { Button, ButtonLink } from '../kit/Button';
import { Sheet } from '../kit/Page';
import { Progress } from '../kit/Progress';
import { TextLink } from '../kit/TextLink';
import { useBringing } from './useBringing';

type Props = {
  here: string;
  sheets: SheetsToRead;
  reading: { pages: number; said: string } | null;
  /** Whether sheets are nobody's, so that nobody's answers can be typed. */
  anonymous: boolean;
};

/** Reads sheets in: files are chosen, each page is read in this browser and kept, then all are looked through. */
export function BringSheets({ here, sheets, reading, anonymous }: Props) {
  const bringing = useBringing(`${here}/bring`, sheets, `${here}/review`);
  const { state } = bringing;
  return (
    <Sheet label="Read in" className="px-5 py-4">
      <h2 className="font-serif text-lg font-semibold">Read in</h2>
      {reading && (
        <p className="mt-2 flex flex-wrap items-center gap-3">
          <span>
            {counted(reading.pages, 'page is', 'pages are')} being looked through: {reading.said}
          </span>
          <ButtonLink look="main" href={`${here}/review`}>
            Go on looking through
          </ButtonLink>
        </p>
      )}
      {!anonymous && (
        <p className="mt-2">
          <TextLink href={`${here}/type`}>Type answers in instead</TextLink>{' '}
          <span className="text-ink-2">off the papers, letter by letter, once or twice.</span>
        </p>
      )}
      {sheets.layouts.length > 0 && (
        <p className="mt-1">
          <TextLink href={`${here}/camera`}>Hold them before the camera</TextLink>{' '}
          <span className="text-ink-2">of this device, one after the other.</span>
        </p>
      )}
      {sheets.layouts.length === 0 ? (
        <p className="mt-2 text-ink-2">
          Print the sheets of this sitting first: they are read by how they were printed.
        </p>
      ) : (
        <>
          <p className="mt-2 max-w-prose text-ink-2">
            PDF from a copier, or pictures: several sheets in a file, in any order and any way up. Nothing counts until
            you have looked it through.
          </p>
          {sheets.watched && (
            <p className="mt-1 text-ink-2">
              What the copier puts into the folder of this school is read by itself, and waits here.
            </p>
          )}
          {state.kind === 'reading' ? (
            <div className="mt-3 flex flex-wrap items-center gap-3">
              <Progress label="Pages read" max={Math.max(1, state.pages)} value={state.read} />
              <span role="status">
                {state.read} of {counted(state.pages, 'page')} read
              </span>
              <Button onClick={bringing.stop}>Stop</Button>
            </div>
          ) : (
            <label className="mt-3 inline-flex cursor-pointer flex-wrap items-center gap-3">
              <span className="font-medium">Files to read</span>
              <input
                type="file"
                multiple
                accept="application/pdf,image/*"
                onChange={(event) => bringing.begin([...(event.target.files ?? [])])}
              />
            </label>
          )}
          {state.kind === 'failed' && (
            <p role="alert" className="mt-2 text-brick">
              {state.why}
            </p>
          )}
        </>
      )}
    </Sheet>
  );
}

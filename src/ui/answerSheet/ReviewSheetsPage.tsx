'use client';
import { useState } from 'react';
import { layOutSheet } from '@/core/answerSheet/sheetLayout';
import { counted } from '@/core/base/words';
import type { Reviewed } from '@/server/answerSheet/seeReading';
import type { SheetsPreview } from '@/server/answerSheet/takeSheets';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { AsidePages } from './AsidePages';
import { Doubts } from './Doubts';
import { TakingsTable } from './TakingsTable';

type Props = { title: string; here: string; results: string; reading: Reviewed } & Commands<
  'settleSheetRow' | 'nameSheetPage' | 'leaveSheetPagesOut' | 'giveUpReading' | 'previewSheets' | 'takeSheets',
  'courseId' | 'sittingId'
>;

/** Sheets that were brought in, looked through: what is in doubt first, then what is put aside, then what comes in. */
export function ReviewSheetsPage({ title, here, results, reading, ...commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [preview, setPreview] = useState<SheetsPreview | null>(null);
  const [taken, setTaken] = useState<{ sheets: number; isForGood: boolean } | null>(null);
  const [givingUp, setGivingUp] = useState(false);
  const picture = (pageId: string) => `/sheet-pictures/${pageId}`;
  const pageOf = (layout: string | null, page: number) => {
    const plan = layout === null ? undefined : reading.layouts[layout];
    return plan ? (layOutSheet(plan)[page - 1] ?? null) : null;
  };
  // What counts for nothing stands where it can be taken in again.
  const aside = reading.pages.filter((page) => page.leftOut || (page.aside !== null && page.aside !== 'read-already'));
  const look = () => perform(() => commands.previewSheets(), setPreview);
  const leaveOut = (pages: string[], out: boolean) =>
    perform(
      () => commands.leaveSheetPagesOut(pages, out),
      () => void (preview && look()),
    );
  if (taken !== null)
    return (
      <PageFrame width="reading">
        <PageTitle title="Sheets read in" back={{ href: here, name: 'Answer sheets' }} />
        <Sheet className="px-5 py-4">
          <p role="status" className="text-pine">
            {counted(taken.sheets, 'answer sheet has', 'answer sheets have')} been read in.
            {!taken.isForGood && ' It can be taken back under “Done lately”.'}
            {reading.anonymous && ' Their pages and pictures are gone.'}
          </p>
          <p className="mt-3">
            <ButtonLink look="main" href={results}>
              {reading.anonymous ? 'To the answers' : 'To the results'}
            </ButtonLink>
          </p>
        </Sheet>
      </PageFrame>
    );
  return (
    <PageFrame width="reading">
      <PageTitle title={`Sheets: ${title}`} back={{ href: here, name: 'Answer sheets' }} note={reading.said}>
        <Button look="grave" onClick={() => setGivingUp(true)}>
          Give them up
        </Button>
        <Button
          look="main"
          whyNot={
            busy
              ? 'It is being worked out.'
              : reading.doubts > 0
                ? `${counted(reading.doubts, 'row waits', 'rows wait')} for you.`
                : null
          }
          onClick={() => void look()}
        >
          See what comes in
        </Button>
      </PageTitle>
      <Problems problems={problems} className="mb-3" />
      <Doubts
        reading={reading}
        pageOf={pageOf}
        picture={picture}
        settle={(pageId, row, signs) => void perform(() => commands.settleSheetRow(pageId, row, signs))}
      />
      {aside.length > 0 && (
        <AsidePages
          pages={aside}
          students={reading.students}
          typing={reading.anonymous ? null : `${here}/type`}
          picture={picture}
          name={(pageId, userId) => void perform(() => commands.nameSheetPage(pageId, userId))}
          leaveOut={(pageId, out) => void leaveOut([pageId], out)}
        />
      )}
      {preview && (
        <TakingsTable
          preview={preview}
          anonymous={reading.anonymous}
          busy={busy}
          leaveOut={({ pages }) => void leaveOut(pages, true)}
          onTake={() =>
            void perform(
              () => commands.takeSheets(preview.key),
              setTaken,
              // Nothing is left here to be looked through.
              { readsAnew: false },
            ).then((done) => {
              if (!done) setPreview(null);
            })
          }
        />
      )}
      {givingUp && (
        <Decision
          title="Give these sheets up?"
          act="Give them up"
          look="grave"
          busy={busy}
          onClose={() => setGivingUp(false)}
          onAct={() =>
            void perform(
              () => commands.giveUpReading(),
              () => location.assign(here),
            )
          }
        >
          <p>
            Nothing of them counts. They can be read in again from their files.
            {reading.anonymous && ' Their pages and pictures go.'}
          </p>
        </Decision>
      )}
    </PageFrame>
  );
}

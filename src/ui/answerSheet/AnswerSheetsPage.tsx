'use client';
import type { SheetsToRead } from '@/server/answerSheet/bringPages';
import type { PrintState } from '@/server/print/printJobs';
import { PageFrame, PageTitle } from '../kit/Page';
import { BringSheets } from './BringSheets';
import { type PrintCommands, PrintSheets } from './PrintSheets';

type Props = {
  sitting: { href: string; title: string; students: number; anonymous: boolean; countsTakingPart: boolean };
  /** Where answer sheets of this sitting are. */
  here: string;
  state: PrintState | null;
  /** How far a made-up class is with sheets of this sitting. */
  filled: PrintState | null;
  sheets: SheetsToRead;
  /** What is looked through already; null where nothing is. */
  reading: { pages: number; said: string } | null;
} & PrintCommands;

/** Answer sheets of a sitting: printed, and read back in. */
export const AnswerSheetsPage = ({ sitting, here, state, filled, sheets, reading, ...commands }: Props) => (
  <PageFrame width="reading">
    <PageTitle title="Answer sheets" back={{ href: sitting.href, name: sitting.title }} />
    <div className="grid gap-4">
      <BringSheets here={here} sheets={sheets} reading={reading} anonymous={sitting.anonymous} />
      <PrintSheets sitting={sitting} here={here} state={state} filled={filled} {...commands} />
    </div>
  </PageFrame>
);

'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { usualGrid } from '@/core/answerSheet/questionRows';
import type { Grade } from '@/core/answerSheet/standIn';
import { counted } from '@/core/base/words';
import type { SheetsAhead } from '@/server/answerSheet/printAnswerSheets';
import type { PrintState } from '@/server/print/printJobs';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { SelectField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { Sheet } from '../kit/Page';
import { PrintProgress } from '../kit/PrintProgress';
import { Problems } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { GridFields, type TypedGrid } from './GridFields';

/** What printing answer sheets, and trying them without paper, asks of the server. */
export type PrintCommands = Commands<
  | 'lookAtSheets'
  | 'printAnswerSheets'
  | 'answerSheetsPrint'
  | 'cancelAnswerSheets'
  | 'fillAnswerSheets'
  | 'filledState'
  | 'cancelFilling',
  'courseId' | 'sittingId'
>;

type Props = {
  sitting: { students: number; anonymous: boolean; countsTakingPart: boolean };
  /** Where answer sheets of the sitting are. */
  here: string;
  state: PrintState | null;
  /** How far a made-up class is with sheets of the sitting. */
  filled: PrintState | null;
} & PrintCommands;

/** Spares beside the class, where sheets are not made out. */
const spares = (students: number): number => students + Math.max(2, Math.ceil(students / 15));

/** Fields that say by themselves what is wrong with them. */
const fields = new Set(['blanks', 'size', 'columns']);

/** Prints answer sheets: whose, how large, how many to a page; looked at and tried before a class is printed. */
export function PrintSheets({ sitting, here, state, filled, ...commands }: Props) {
  const { students, anonymous } = sitting;
  const [whose, setWhose] = useState<'made-out' | 'blank'>(anonymous ? 'blank' : 'made-out');
  const [blanks, setBlanks] = useState(String(spares(students)));
  const [size, setSize] = useState('100');
  const [perPage, setPerPage] = useState<1 | 2 | 4>(1);
  const [bothSides, setBothSides] = useState(false);
  const [grid, setGrid] = useState<TypedGrid>({ ...usualGrid, columns: String(usualGrid.columns) });
  const [running, setRunning] = useState(false);
  const [ahead, setAhead] = useState<SheetsAhead | null>(null);
  const { perform, problems, busy } = usePerform();
  const router = useRouter();
  /** What is printed can be read from then on: the page above says so at once. */
  const begun = async (printing: ReturnType<typeof commands.printAnswerSheets>) => {
    const answer = await printing;
    if (answer.ok) router.refresh();
    return answer;
  };
  const options = (trial: boolean) => ({
    whose,
    blanks: Number(blanks),
    size: Number(size),
    perPage,
    bothSides,
    grid: { ...grid, columns: Number(grid.columns) },
    trial,
  });
  const change = (act: () => void) => {
    act();
    setAhead(null);
  };
  const [trial, setTrial] = useState(false);
  const [grade, setGrade] = useState<Grade>('copier');
  const problemAt = (field: string) => problems.find((problem) => problem.field === field)?.message ?? null;
  return (
    <Sheet label="Print" className="px-5 py-4">
      <h2 className="font-serif text-lg font-semibold">Print</h2>
      {anonymous ? (
        <p className="mt-2 max-w-prose">
          The sitting is anonymous: no name and no number stands on its sheets, and all answer the same{' '}
          <TextLink href={here.replace(/answer-sheets$/, 'print')}>printed paper</TextLink>. Who answers on a screen as
          well counts twice: nobody can tell.
          {sitting.countsTakingPart &&
            ' Who took part on paper is written down nowhere: give them their credit in the gradebook.'}
        </p>
      ) : (
        <fieldset className="mt-2" disabled={running}>
          <legend className="sr-only">Whose sheets</legend>
          <Tick radio name="whose" on={whose === 'made-out'} onChange={() => change(() => setWhose('made-out'))}>
            One made out for each of {counted(students, 'student')}, with name and section
          </Tick>
          <Tick radio name="whose" on={whose === 'blank'} onChange={() => change(() => setWhose('blank'))}>
            Blanks, with room for a name and a grid for the student number
          </Tick>
        </fieldset>
      )}
      <div className="mt-3 flex flex-wrap gap-4">
        {whose === 'blank' && (
          <NumberField
            label="How many"
            whole
            className="w-24"
            value={blanks}
            problem={problemAt('blanks')}
            onChange={(event) => change(() => setBlanks(event.target.value))}
          />
        )}
        <NumberField
          label="Size in percent"
          whole
          className="w-28"
          value={size}
          problem={problemAt('size')}
          onChange={(event) => change(() => setSize(event.target.value))}
        />
        <SelectField
          label="Sheets on a page"
          className="w-36"
          value={perPage}
          onChange={(event) => change(() => setPerPage(Number(event.target.value) as 1 | 2 | 4))}
        >
          <option value={1}>one</option>
          <option value={2}>two</option>
          <option value={4}>four</option>
        </SelectField>
      </div>
      {perPage === 1 && (
        <Tick on={bothSides} className="mt-3" onChange={(on) => change(() => setBothSides(on))}>
          On both sides: every sheet begins on a new leaf
        </Tick>
      )}
      {ahead?.numbers !== 0 && (
        <GridFields grid={grid} problem={problemAt('columns')} onChange={(next) => change(() => setGrid(next))} />
      )}
      {size !== '100' && (
        <p className="mt-2 text-saffron">
          Not the usual size: print a trial sheet, fill it in and read it before you print for a class.
        </p>
      )}
      <Problems problems={problems.filter((one) => !fields.has(one.field ?? ''))} className="mt-3" />
      {ahead && (
        <p role="status" className={`mt-3 ${ahead.problem ? 'text-brick' : ''}`}>
          {ahead.problem ??
            `${counted(ahead.sheets, 'sheet')} of ${counted(ahead.pages, 'page')}, ${counted(ahead.rows, 'row')}${
              ahead.byHand ? `; ${counted(ahead.byHand, 'row is', 'rows are')} filled in by whoever marks` : ''
            }.`}
        </p>
      )}
      {ahead && ahead.inWords > 0 && (
        <p className="mt-2 text-saffron">
          {counted(ahead.inWords, 'question is answered in words, and is', 'questions are answered in words, and are')}{' '}
          not on the sheet: what is written on the papers does not come in.
        </p>
      )}
      {ahead && ahead.unnumbered > 0 && (
        <p className="mt-2 text-saffron">
          {counted(ahead.unnumbered, 'student has', 'students have')} no student number of figures: have them write
          their names, and you are asked whose each sheet is.
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          whyNot={busy || running ? 'It is being worked out.' : null}
          onClick={() => void perform(() => commands.lookAtSheets(options(false)), setAhead)}
        >
          What would be printed
        </Button>
        <Tick on={trial} onChange={setTrial}>
          One trial sheet only
        </Tick>
      </div>
      <PrintProgress
        state={state}
        begin={() => begun(commands.printAnswerSheets(options(trial)))}
        progress={commands.answerSheetsPrint}
        end={commands.cancelAnswerSheets}
        what="sheets"
        act={() => (trial ? 'Print a trial sheet' : 'Print')}
        whyNot={ahead?.problem ?? null}
        file={`${here}/pdf`}
        fileSaid={(now) => `Open ${counted(now.total, 'answer sheet')}`}
        onRunning={setRunning}
      />
      <details className="mt-4 border-t border-line pt-3">
        <summary className="text-prussian underline underline-offset-4">Try it without paper</summary>
        <p className="mt-2 max-w-prose text-ink-2">
          A made-up class fills these sheets in with a pencil, and a copier or a phone takes them: pictures and a PDF to
          read in, and the truth beside them. Nothing of it counts until it is taken over.
        </p>
        <SelectField
          label="Taken by"
          className="mt-2 w-64"
          value={grade}
          onChange={(event) => setGrade(event.target.value as Grade)}
        >
          <option value="copier">a good copier</option>
          <option value="worn-copier">a worn copier, askew and grey</option>
          <option value="phone">a phone</option>
        </SelectField>
        <PrintProgress
          state={filled}
          begin={() => begun(commands.fillAnswerSheets(options(trial), grade))}
          progress={commands.filledState}
          end={commands.cancelFilling}
          what="sheets"
          act={() => 'Have them filled in'}
          file={`${here}/filled`}
          fileSaid={(now) => `Keep ${counted(now.total, 'filled sheet')}`}
          download
        />
      </details>
    </Sheet>
  );
}

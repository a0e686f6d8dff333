import { counted } from '@/core/base/words';
import { Button } from '../kit/Button';
import { Problems, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import type { OpenQuestion } from './model';
import type { QuestionSheetState } from './useQuestionSheet';

/** Where the sheet stands, and what can be done with it. */
export function SheetFoot({
  sheet,
  question,
  base,
}: {
  sheet: QuestionSheetState;
  question: OpenQuestion;
  /** The address of the course. */
  base: string;
}) {
  const { problems, busy, state, note, theirs } = sheet;
  const shown = [
    'shortName',
    'points',
    'categoryId',
    ...problems.map((problem) => problem.field ?? '').filter((field) => field.startsWith('content.')),
  ];
  const version =
    question.versions.length > 0
      ? `Version ${question.version}${question.frozen ? ', stands on papers: an edit makes the next version' : ''}`
      : '';
  return (
    <footer className="sticky bottom-0 z-10 flex flex-wrap items-center gap-2 border-t border-line bg-sheet px-5 py-2.5">
      <span role="status" className="min-w-48 flex-1 text-sm text-ink-2">
        {problems.length > 0 && !theirs && (
          <span className="text-brick">
            {problems.every((one) => one.code === 'busy')
              ? 'Not saved: no connection. '
              : `Not saved: ${counted(new Set(problems.map((one) => one.message)).size, 'thing is', 'things are')} to be mended above. `}
          </span>
        )}
        {state === 'unsaved' ? `${problems.length > 0 ? '' : 'Not saved yet. '}${note}` : note || version}
        {sheet.givenUp && (
          <TextButton className="ml-2" onClick={sheet.bringBack}>
            Bring it back
          </TextButton>
        )}
      </span>
      {sheet.oldKeys && state !== 'unsaved' && (
        <p role="status" className="w-full bg-saffron-wash px-3 py-1.5 text-saffron">
          {counted(sheet.oldKeys.papers, 'paper holds', 'papers hold')} the old key;{' '}
          {counted(sheet.oldKeys.changing, 'answer would', 'answers would')} earn otherwise.{' '}
          <TextLink href={`${base}/marking/questions/${question.id}`}>Mark them anew</TextLink>
        </p>
      )}
      <Problems
        problems={problemsBesides(problems, shown).filter((one) => !theirs || one.code !== 'conflict')}
        className="w-full"
      />
      {state === 'unsaved' && (
        <Button look="quiet" disabled={busy} onClick={sheet.giveUp}>
          Give up the changes
        </Button>
      )}
      {sheet.retire && (
        <Button look="quiet" disabled={busy} onClick={sheet.retire}>
          Retire
        </Button>
      )}
      <Button
        disabled={busy}
        keys="Ctrl+Enter"
        title="Begins the next of the same kind"
        onClick={() => void sheet.save(true)}
      >
        Save and write another
      </Button>
      <Button look="main" disabled={busy} keys="Ctrl+S" onClick={() => void sheet.save(false)}>
        Save
      </Button>
    </footer>
  );
}

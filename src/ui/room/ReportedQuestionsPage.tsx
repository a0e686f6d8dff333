'use client';
import { useState } from 'react';
import { inZone } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { QuestionOnPapers, ReportedQuestion } from '@/server/room/reportedQuestions';
import { WordsForm } from '../keep/WordsForm';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { Find, holds } from '../kit/Find';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';

type Props = {
  base: string;
  sitting: string;
  zone: string;
  questions: ReportedQuestion[];
  /** Every question on papers of the sitting. */
  onPapers: QuestionOnPapers[];
} & Commands<'correct' | 'withdrawCorrection' | 'answerReports', 'courseId' | 'sittingId'>;

/** What students have reported, gathered by question: a correction on every paper that holds it, one answer to all. */
export function ReportsPage({
  base,
  sitting,
  zone,
  questions,
  onPapers,
  correct,
  withdrawCorrection,
  answerReports,
}: Props) {
  const [find, setFind] = useState('');
  const [picked, setPicked] = useState<string | null>(null);
  const known = new Set(questions.map((one) => one.versionId));
  const others = onPapers.filter((one) => !known.has(one.versionId));
  const shown = others.filter((one) => holds(find, one.name, one.stem));
  const chosen = others.find((one) => one.versionId === picked);
  const open = questions.reduce((sum, one) => sum + one.reports.filter((report) => report.answer === null).length, 0);
  return (
    <PageFrame>
      <PageTitle
        title="Reported questions"
        back={{ href: sitting, name: 'Rules and students' }}
        note={open > 0 ? `${counted(open, 'report waits', 'reports wait')} for an answer` : undefined}
      />
      {questions.length === 0 ? (
        <Empty title="Nothing has been reported">
          Below every question students find “Something is wrong with this question”. What they write is gathered here,
          question by question.
        </Empty>
      ) : (
        <div className="space-y-4">
          {questions.map((question) => (
            <ReportedSheet
              key={question.versionId}
              {...{ base, zone, question, correct, withdrawCorrection, answerReports }}
            />
          ))}
        </div>
      )}
      {others.length > 0 && (
        <Sheet label="Other questions" className="mt-4">
          <h2 className="px-4 pt-2 text-lg">Correct another question</h2>
          <Find
            label="Find questions"
            placeholder="Find a question of these papers"
            value={find}
            onChange={setFind}
            said={`${shown.length} of ${others.length}`}
          />
          <ul className="max-h-60 overflow-y-auto">
            {shown.map((one) => (
              <li key={one.versionId} className="border-b border-line px-4 py-1.5 last:border-b-0">
                <TextButton
                  aria-expanded={one.versionId === picked}
                  onClick={() => setPicked(one.versionId === picked ? null : one.versionId)}
                >
                  {one.name}
                </TextButton>{' '}
                <span className="text-sm text-ink-2">on {counted(one.papers, 'paper')}</span>
              </li>
            ))}
          </ul>
        </Sheet>
      )}
      {chosen && (
        <div className="mt-4">
          <ReportedSheet
            key={chosen.versionId}
            {...{ base, zone, correct, withdrawCorrection, answerReports }}
            question={{ ...chosen, reports: [], corrections: [] }}
          />
        </div>
      )}
    </PageFrame>
  );
}

function ReportedSheet({
  base,
  zone,
  question,
  correct,
  withdrawCorrection,
  answerReports,
}: Omit<Props, 'questions' | 'onPapers' | 'sitting'> & { question: ReportedQuestion }) {
  const { perform, problems, busy } = usePerform();
  const [done, setDone] = useState('');
  const at = (moment: number) => inZone(moment, zone, 'EEE HH:mm');
  const waiting = question.reports.filter((report) => report.answer === null).length;
  return (
    <Sheet label={question.name} className="px-5 py-4">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-lg">{question.name}</h2>
        <span className="text-ink-2">
          on {counted(question.papers, 'paper')} ·{' '}
          <TextLink href={`${base}/banks/${question.bankId}?question=${question.questionId}`}>
            Mend the question<span className="sr-only">: {question.name}</span>
          </TextLink>{' '}
          ·{' '}
          <TextLink href={`${base}/marking/questions/${question.questionId}`}>
            Mark it anew<span className="sr-only">: {question.name}</span>
          </TextLink>
        </span>
      </div>
      {question.stem !== question.name && <p className="text-ink-2">{question.stem}</p>}
      {done && (
        <Done className="mt-2" onUndo={null}>
          {done}
        </Done>
      )}
      <Problems problems={problemsBesides(problems, ['text'])} className="mt-2" />
      <ul className="mt-2">
        {question.reports.map((report) => (
          <li key={report.id} className="border-t border-line py-1.5">
            <p className="break-words whitespace-pre-wrap">{report.text}</p>
            {report.choices.length > 0 && (
              <p className="text-sm text-ink-2">On this paper: {report.choices.join(' · ')}</p>
            )}
            <p className="text-sm text-ink-2">
              {report.by}, {at(report.at)}
              {report.answer !== null &&
                ` · answered ${report.answeredAt ? at(report.answeredAt) : ''}: ${report.answer}`}
            </p>
          </li>
        ))}
        {question.corrections.map((one) => (
          <li key={one.id} className="flex items-start justify-between gap-3 border-t border-line py-1.5">
            <p className="min-w-0 break-words whitespace-pre-wrap">
              <span className="font-medium text-saffron">Correction, {at(one.at)}:</span> {one.text}
            </p>
            <Button
              look="quiet"
              disabled={busy}
              onClick={() =>
                void perform(
                  () => withdrawCorrection(one.id),
                  () => setDone('The correction is gone from every paper.'),
                )
              }
            >
              Take it back
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-3 grid gap-4 border-t border-line pt-3 md:grid-cols-2">
        <WordsForm
          label="A correction"
          hint={`It stands above the question on ${question.papers === 1 ? 'the one paper that holds' : `all ${question.papers} papers that hold`} it, within seconds.`}
          act="Put it on the papers"
          onSend={(text) => correct(question.versionId, text)}
          onSent={({ papers }) => setDone(`The correction stands on ${counted(papers, 'paper')}.`)}
        />
        {waiting > 0 && (
          <WordsForm
            label={`An answer to ${waiting === 1 ? 'the one who' : `all ${waiting} who`} reported it`}
            hint="It goes to each by message."
            act="Answer"
            onSend={(text) => answerReports(question.versionId, text)}
            onSent={({ answered }) => setDone(`${counted(answered, 'report is', 'reports are')} answered.`)}
          />
        )}
      </div>
    </Sheet>
  );
}

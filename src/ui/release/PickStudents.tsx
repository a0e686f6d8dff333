'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import { useOnce } from '../keep/useOnce';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { SelectField, TextArea, TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { type Command, usePerform } from '../kit/usePerform';

/** What is known of a student to pick by. */
type Pickable = {
  userId: string;
  name: string;
  section: string | null;
  percent: number | null;
  waiting: number;
  missed: ReadonlySet<string>;
};

type Whole = Pickable & { percent: number };
const isWhole = (one: Pickable): one is Whole => one.percent !== null && one.waiting === 0;

type Props = {
  students: readonly Pickable[];
  questions: readonly { questionId: string; name: string }[];
  picked: ReadonlySet<string>;
  onPick: (userIds: Set<string>) => void;
  title: string;
  onDone: (said: string) => void;
} & Commands<'writeToStudents', 'courseId' | 'sittingId'>;

type Rule = 'under' | 'from' | 'missed' | 'waiting' | 'none';

/** Picks students by a rule, to write to them or to take the list away. */
export function PickStudents({ students, questions, picked, onPick, title, writeToStudents, onDone }: Props) {
  const [rule, setRule] = useState<Rule>('under');
  const [percent, setPercent] = useState('60');
  const [questionId, setQuestionId] = useState(questions[0]?.questionId ?? '');
  const [writing, setWriting] = useState(false);
  const [open, setOpen] = useState(false);
  const limit = numberIn(percent);
  const fits = (one: Pickable): boolean => {
    // What is marked so far says nothing of where a result will lie.
    if (rule === 'under') return isWhole(one) && one.percent < limit;
    if (rule === 'from') return isWhole(one) && one.percent >= limit;
    if (rule === 'missed') return one.missed.has(questionId);
    if (rule === 'waiting') return one.waiting > 0;
    return one.percent === null;
  };
  const byPercent = rule === 'under' || rule === 'from';
  const unfinished = students.filter((one) => one.percent !== null && one.waiting > 0).length;
  const list = students.filter((one) => picked.has(one.userId));
  const download = () => {
    // Cells are led by an apostrophe where a spreadsheet would run them; the file is made by the browser.
    void import('@/core/base/csv').then(({ csvText }) => {
      const text = csvText(
        ['Name', 'Section', 'Percent', 'Answers still to be marked'],
        list.map((one) => [
          one.name,
          one.section ?? '',
          isWhole(one) ? Math.round(one.percent * 10) / 10 : '',
          one.waiting || '',
        ]),
      );
      const link = document.createElement('a');
      link.href = URL.createObjectURL(new Blob([text], { type: 'text/csv' }));
      link.download = `${title.replace(/[^\p{L}\p{N}]+/gu, '-')}-picked.csv`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 1_000);
    });
  };
  if (!open && picked.size === 0)
    return (
      <p className="border-b border-line px-4 py-1.5 text-sm">
        <TextButton onClick={() => setOpen(true)}>Pick students by a rule</TextButton>
        <span className="text-ink-2">, to write to them or to take the list away</span>
      </p>
    );
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-2 border-b border-line px-4 py-3">
      <SelectField
        label="Pick students"
        className="w-52"
        value={rule}
        onChange={(event) => setRule(event.target.value as Rule)}
      >
        <option value="under">under so many percent</option>
        <option value="from">from so many percent up</option>
        {questions.length > 0 && <option value="missed">who missed a question</option>}
        <option value="waiting">with answers to be marked</option>
        <option value="none">without a result</option>
      </SelectField>
      {byPercent && (
        <NumberField
          label="Percent"
          className="w-24"
          value={percent}
          problem={Number.isFinite(limit) ? null : 'A number.'}
          onChange={(event) => setPercent(event.target.value)}
        />
      )}
      {rule === 'missed' && (
        <SelectField
          label="Question"
          className="w-72"
          value={questionId}
          onChange={(event) => setQuestionId(event.target.value)}
        >
          {questions.map((one, i) => (
            <option key={one.questionId} value={one.questionId}>
              {i + 1} {one.name}
            </option>
          ))}
        </SelectField>
      )}
      <Button onClick={() => onPick(new Set(students.filter(fits).map((one) => one.userId)))}>
        Pick {students.filter(fits).length}
      </Button>
      {byPercent && unfinished > 0 && (
        <span className="self-center text-saffron">
          {counted(unfinished, 'paper is', 'papers are')} not completely marked and left out
        </span>
      )}
      <span className="ml-auto flex flex-wrap items-center gap-2">
        <span className="text-ink-2" role="status">
          {picked.size === 0 ? 'Nobody picked' : `${counted(picked.size, 'student')} picked`}
        </span>
        {picked.size > 0 && (
          <>
            <Button onClick={download}>List as CSV</Button>
            <Button onClick={() => setWriting(true)}>Write to them</Button>
            <Button look="quiet" onClick={() => onPick(new Set())}>
              Pick nobody
            </Button>
          </>
        )}
      </span>
      {writing && (
        <WriteTo
          count={picked.size}
          title={title}
          write={(input) => writeToStudents({ userIds: [...picked], ...input })}
          onClose={() => setWriting(false)}
          onDone={onDone}
        />
      )}
    </div>
  );
}

function WriteTo({
  count,
  title,
  write,
  onClose,
  onDone,
}: {
  count: number;
  title: string;
  write: Command<[input: { subject: string; text: string }], { sent: number }>;
  onClose: () => void;
  onDone: (said: string) => void;
}) {
  const { perform, problems, busy } = usePerform();
  const once = useOnce();
  const { value, change, done } = useWritten(
    'message',
    (message) => (message.text.trim() ? `A message to students of ${title}` : null),
    { subject: title, text: '' },
  );
  const { subject, text } = value;
  return (
    <Decision
      title={`Write to ${counted(count, 'student')}`}
      act="Send"
      busy={busy}
      onClose={onClose}
      onAct={() =>
        void perform(
          () => once(write, { subject, text }),
          ({ sent }) => {
            done();
            onDone(`Sent to ${counted(sent, 'student')}, each by itself.`);
            onClose();
          },
        )
      }
    >
      <p className="text-ink-2">Each gets a message of their own; nobody sees who else did.</p>
      <TextField
        label="Subject"
        value={subject}
        problem={problemAt(problems, 'subject')}
        onChange={(event) => change({ subject: event.target.value, text })}
      />
      <TextArea
        label="Message"
        rows={6}
        value={text}
        problem={problemAt(problems, 'text')}
        onChange={(event) => change({ subject, text: event.target.value })}
      />
      <Problems problems={problemsBesides(problems, ['subject', 'text'])} />
    </Decision>
  );
}

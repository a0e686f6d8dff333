'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { CategoryNode } from '@/core/bank/categoryTree';
import { emptyRich, type Rich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { freeId } from '@/core/question/choices';
import type { QuestionContent } from '@/core/question/content';
import { difficulties, type QuestionType, questionTypeNames } from '@/core/question/types';
import { blankGap } from '@/core/question/types/gap-fill/content';
import { withoutEmptyParts } from '@/core/question/withoutEmptyParts';
import { Button } from '../kit/Button';
import { SelectField, TextField } from '../kit/Field';
import { Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { type Authoring, AuthoringProvider } from '../question/authoring';
import { contentProblem } from '../question/editing';
import { gapAnswer } from '../question/gap-fill/Review';
import { QuestionEditor } from '../question/QuestionEditor';
import { RichEditor } from '../question/rich/RichEditor';
import type { BankCommands, OpenQuestion } from './model';
import { QuestionPreview } from './QuestionPreview';

type Props = {
  question: OpenQuestion;
  categories: CategoryNode[];
  commands: BankCommands;
  onSaved: (questionId: string) => void;
  onNext: (type: QuestionType) => void;
  onRetired: (auditId: number) => void;
};

type Fields = Pick<OpenQuestion, 'categoryId' | 'shortName' | 'difficulty' | 'content'> & { points: string };

const feedbackParts = [
  ['right', 'Feedback when right'],
  ['wrong', 'Feedback when wrong'],
  ['solution', 'Worked solution'],
  ['hint', 'Hint'],
] as const;

const fieldsOf = (question: OpenQuestion): Fields => ({
  categoryId: question.categoryId,
  shortName: question.shortName,
  difficulty: question.difficulty,
  points: pointsText(question.points),
  content: question.content,
});

/** One question, edited in place. What is typed is kept in this browser until it is saved. */
export function QuestionSheet({ question, categories, commands, onSaved, onNext, onRetired }: Props) {
  const { perform, problems, busy } = usePerform();
  const isNew = question.id === '';
  const draftKey = `wuzzen-draft/${question.id || `new/${question.content.type}`}`;
  const [fields, setFields] = useState<Fields>(fieldsOf(question));
  const [edit, setEdit] = useState(question.edit);
  const [state, setState] = useState<'untouched' | 'unsaved' | 'saved'>('untouched');
  const [note, setNote] = useState('');
  /** Raised when the fields are filled from outside, so that the text editors begin anew with them. */
  const [round, setRound] = useState(0);

  useEffect(() => {
    const draft = readDraft(draftKey, question.edit);
    if (!draft) return;
    setFields(draft);
    setState('unsaved');
    setNote('What you typed here before has been brought back.');
    setRound((count) => count + 1);
  }, [draftKey, question.edit]);

  /** What is on the sheet now: two changes may come before the sheet is drawn again. */
  const now = useRef(fields);
  now.current = fields;
  const [openGap, setOpenGap] = useState<string | null>(null);
  const change = (part: Partial<Fields>) => {
    const next = { ...now.current, ...part };
    now.current = next;
    setFields(next);
    setState('unsaved');
    keepDraft(draftKey, edit, next);
  };
  const setFeedback = (part: (typeof feedbackParts)[number][0], rich: Rich | undefined) => {
    const { content } = now.current;
    change({ content: { ...content, feedback: { ...content.feedback, [part]: rich } } });
  };
  const { content } = fields;
  const makeGap = (words: string): string => {
    const { content: current } = now.current;
    if (current.type !== 'gap-fill') return '';
    const id = freeId(current.gaps, 'g');
    change({ content: { ...current, gaps: [...current.gaps, blankGap(id, 'text', words)] } });
    setOpenGap(id);
    return id;
  };
  const authoring: Authoring = {
    variables:
      (content.type === 'numeric' || content.type === 'gap-fill') && content.variables ? content.variables : [],
    gapText: (id) => {
      const gap = content.type === 'gap-fill' ? content.gaps.find((one) => one.id === id) : null;
      return gap ? gapAnswer(gap) : '';
    },
    openGap: setOpenGap,
    store: null,
  };

  const save = async (andNext: boolean) => {
    const points = Number(fields.points.replace(',', '.'));
    const input = {
      ...fields,
      points: fields.points.trim() === '' ? null : points,
      content: withoutEmptyParts(fields.content),
    };
    if (isNew) {
      await perform(
        () => commands.addQuestion(input),
        ({ questionId }) => {
          dropDraft(draftKey);
          if (andNext) {
            setFields({
              ...fieldsOf(question),
              categoryId: fields.categoryId,
              difficulty: fields.difficulty,
              points: fields.points,
            });
            setState('untouched');
            setNote('Saved. Here is the next.');
            setRound((count) => count + 1);
          } else onSaved(questionId);
        },
      );
      return;
    }
    await perform(
      () => commands.changeQuestion(question.id, { ...input, edit }),
      (saved) => {
        dropDraft(draftKey);
        setEdit(saved.edit);
        setState('saved');
        setNote(
          saved.newVersion
            ? `Saved as version ${saved.version}; papers that hold an earlier version keep it.`
            : `Saved ${clock()}.`,
        );
        if (andNext) onNext(fields.content.type);
      },
    );
  };
  const latest = useRef(save);
  latest.current = save;
  const onKey = useCallback((event: React.KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey)) return;
    if (event.key === 'Enter' || event.key.toLowerCase() === 's') {
      event.preventDefault();
      void latest.current(event.key === 'Enter');
    }
  }, []);
  useEffect(() => {
    if (state !== 'unsaved') return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [state]);

  const shown = [
    'shortName',
    'points',
    'categoryId',
    ...problems.map((problem) => problem.field ?? '').filter((field) => field.startsWith('content.')),
  ];
  return (
    <AuthoringProvider value={authoring}>
      <Sheet label={isNew ? `New question: ${questionTypeNames[fields.content.type]}` : 'Question'} className="min-w-0">
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the keys work in every field of the sheet */}
        <div onKeyDown={onKey} className="space-y-5 px-5 py-4" key={round}>
          <div className="grid grid-cols-[2fr_2fr_1fr_0.8fr] gap-3">
            <TextField
              label="Short name (private)"
              value={fields.shortName}
              onChange={(event) => change({ shortName: event.target.value })}
              problem={problemAt(problems, 'shortName')}
            />
            <SelectField
              label="Category"
              value={fields.categoryId}
              onChange={(event) => change({ categoryId: event.target.value })}
              problem={problemAt(problems, 'categoryId')}
            >
              {categories.map((one) => (
                <option key={one.id} value={one.id}>
                  {'\u2003'.repeat(one.depth)}
                  {one.name}
                </option>
              ))}
            </SelectField>
            <SelectField
              label="Difficulty"
              value={fields.difficulty ?? ''}
              onChange={(event) => change({ difficulty: (event.target.value || null) as Fields['difficulty'] })}
            >
              <option value="">not set</option>
              {difficulties.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </SelectField>
            <TextField
              label="Points"
              inputMode="decimal"
              value={fields.points}
              onChange={(event) => change({ points: event.target.value })}
              problem={problemAt(problems, 'points')}
            />
          </div>
          <RichEditor
            label={`${questionTypeNames[fields.content.type]}: the question`}
            value={fields.content.stem}
            makeGap={content.type === 'gap-fill' ? makeGap : undefined}
            onChange={(stem) => change({ content: { ...now.current.content, stem } })}
            problem={contentProblem(problems, 'stem')}
          />
          <QuestionEditor
            content={content}
            onChange={(next) => change({ content: { ...next, stem: now.current.content.stem } as QuestionContent })}
            problems={problems}
            openGap={openGap}
            onOpenGap={setOpenGap}
          />
          <div className="space-y-3 border-t border-line pt-3">
            {feedbackParts.map(([part, label]) => {
              const value = fields.content.feedback[part];
              return value ? (
                <RichEditor key={part} low label={label} value={value} onChange={(rich) => setFeedback(part, rich)} />
              ) : null;
            })}
            <p className="flex flex-wrap gap-x-4 text-sm">
              {feedbackParts
                .filter(([part]) => !fields.content.feedback[part])
                .map(([part, label]) => (
                  <button
                    key={part}
                    type="button"
                    className="text-prussian underline"
                    onClick={() => setFeedback(part, emptyRich)}
                  >
                    Add {label.toLowerCase()}
                  </button>
                ))}
            </p>
            {question.objectives.length > 0 && (
              <p className="text-sm text-ink-2">
                Objectives: {question.objectives.map((one) => `${one.code} ${one.wording}`).join('; ')}
              </p>
            )}
          </div>
          <QuestionPreview content={fields.content} points={Number(fields.points.replace(',', '.')) || 0} />
        </div>
        <footer className="sticky bottom-0 flex flex-wrap items-center gap-2 border-t border-line bg-sheet px-5 py-2.5">
          <span role="status" className="mr-auto text-sm text-ink-2">
            {state === 'unsaved'
              ? `Not saved yet; kept in this browser. ${note}`
              : note ||
                (question.versions.length > 0
                  ? `Version ${question.version}${question.frozen ? ', stands on papers: an edit makes the next version' : ''}`
                  : '')}
          </span>
          <Problems problems={problemsBesides(problems, shown)} className="w-full" />
          {problems.length > 0 && (
            <span className="text-sm text-brick">
              Not saved: {problems.length === 1 ? 'one thing is' : `${problems.length} things are`} to be mended above.
            </span>
          )}
          {!isNew && (
            <Button
              look="quiet"
              disabled={busy}
              onClick={() =>
                void perform(
                  () => commands.retire(question.id),
                  ({ auditId }) => onRetired(auditId),
                )
              }
            >
              Retire
            </Button>
          )}
          <Button
            disabled={busy}
            keys="Ctrl+Enter"
            title="Save and begin the next of the same kind"
            onClick={() => void save(true)}
          >
            Save, next
          </Button>
          <Button look="main" disabled={busy} keys="Ctrl+S" onClick={() => void save(false)}>
            Save
          </Button>
        </footer>
      </Sheet>
    </AuthoringProvider>
  );
}

const clock = () => new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

function readDraft(key: string, edit: number): Fields | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as { edit: number; fields: Fields } | null;
    return kept && kept.edit === edit ? kept.fields : null;
  } catch {
    return null;
  }
}

function keepDraft(key: string, edit: number, fields: Fields): void {
  try {
    localStorage.setItem(key, JSON.stringify({ edit, fields }));
  } catch {
    // Without room in the browser's store the sheet itself still holds what is typed, and closing it warns.
  }
}

function dropDraft(key: string): void {
  try {
    localStorage.removeItem(key);
  } catch {
    // Nothing was kept, so nothing has to go.
  }
}

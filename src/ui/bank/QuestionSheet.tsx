'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { emptyRich, type Rich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { beginContent, settingsIn } from '@/core/question/beginning';
import { freeId } from '@/core/question/choices';
import type { QuestionContent } from '@/core/question/content';
import { difficulties, type QuestionType, questionTypeNames } from '@/core/question/types';
import { blankGap } from '@/core/question/types/gap-fill/content';
import { withoutEmptyParts } from '@/core/question/withoutEmptyParts';
import { Button } from '../kit/Button';
import { SelectField, TextField } from '../kit/Field';
import { numberIn } from '../kit/numberIn';
import { Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { type Authoring, AuthoringProvider } from '../question/authoring';
import { contentProblem } from '../question/editing';
import { gapAnswer } from '../question/gap-fill/Review';
import { QuestionEditor } from '../question/QuestionEditor';
import { RichEditor } from '../question/rich/RichEditor';
import { tabToNextText } from '../question/textOrder';
import { type Fields, fieldsOf } from './fields';
import { LabelFields } from './LabelFields';
import type { BankCommands, BankPageProps, OpenQuestion } from './model';
import { QuestionPreview } from './QuestionPreview';
import { Superseded } from './Superseded';
import { storeMedia } from './storeMedia';
import { UsagePanel } from './UsagePanel';
import { useDraft } from './useDraft';

/** The bank around a question. A new question needs no more commands than to be added and drafted. */
export type SheetBank = Pick<BankPageProps, 'categories' | 'objectives' | 'tags' | 'passages' | 'base'> & {
  commands: Pick<BankCommands, 'createQuestion' | 'keepDraft' | 'giveUpDraft'> &
    Partial<Pick<BankCommands, 'saveQuestion' | 'retireQuestion' | 'openQuestion'>>;
};

type Props = {
  question: OpenQuestion;
  bank: SheetBank;
  onSaved: (questionId: string) => void;
  /** A new question has been saved and the next of its kind begun. */
  onAdded?: () => void;
  onNext?: (type: QuestionType) => void;
  onRetired?: (auditId: number) => void;
};

const feedbackParts = [
  ['right', 'Feedback when right'],
  ['wrong', 'Feedback when wrong'],
  ['solution', 'Worked solution'],
  ['hint', 'Hint'],
] as const;

/** One question, edited in place. What is typed is kept, in this browser and on the server, until it is saved. */
export function QuestionSheet({ question, bank, onSaved, onAdded, onNext, onRetired }: Props) {
  const { commands, categories } = bank;
  const { retireQuestion } = commands;
  const { perform, problems, busy, setProblems } = usePerform();
  const isNew = question.id === '';
  const [fields, setFields] = useState<Fields>(fieldsOf(question));
  const [edit, setEdit] = useState(question.edit);
  const [state, setState] = useState<'untouched' | 'unsaved' | 'saved'>('untouched');
  const [note, setNote] = useState('');
  /** Raised when the fields are filled from outside, so that the text editors begin anew with them. */
  const [round, setRound] = useState(0);
  const [openGap, setOpenGap] = useState<string | null>(null);
  const [theirs, setTheirs] = useState<OpenQuestion | null>(null);
  const draft = useDraft<Fields>(question.id || `new/${question.content.type}`, commands, (where) =>
    setNote(
      where === 'server'
        ? `Draft kept ${clock()}.`
        : 'The draft is kept in this browser; the server cannot be reached.',
    ),
  );
  /** What is on the sheet now: two changes may come before the sheet is drawn again. */
  const now = useRef(fields);
  now.current = fields;

  const fill = (next: Fields) => {
    setFields(next);
    setRound((count) => count + 1);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: a draft is looked for once, when the sheet opens
  useEffect(() => {
    const found = draft.newest(question.draft);
    if (!found || found.fields.content?.type !== question.content.type) return;
    fill({ ...fieldsOf(question), ...found.fields });
    setEdit(found.edit);
    setState('unsaved');
    setNote('What you typed here before has been brought back.');
  }, []);

  const change = (part: Partial<Fields>) => {
    const next = { ...now.current, ...part };
    now.current = next;
    setFields(next);
    setState('unsaved');
    draft.keep(edit, next);
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
    store: (file) => storeMedia(`${bank.base}/media`, file),
  };

  const save = async (andNext: boolean, over: number | null = null) => {
    const typed = fields.points.trim();
    const input = {
      ...fields,
      points: typed === '' ? null : numberIn(typed),
      content: withoutEmptyParts(content),
    };
    if (isNew) {
      await perform(
        () => commands.createQuestion(input),
        ({ questionId }) => {
          draft.forget(false);
          if (!andNext) return onSaved(questionId);
          onAdded?.();
          fill({
            ...fieldsOf(question),
            categoryId: fields.categoryId,
            difficulty: fields.difficulty,
            points: fields.points,
            tags: fields.tags,
            objectives: fields.objectives,
            content: blankLike(question.content, content),
          });
          setState('untouched');
          setNote('Saved. Here is the next.');
        },
      );
      return;
    }
    const { saveQuestion, openQuestion } = commands;
    if (!saveQuestion) return;
    const sent = over ?? edit;
    const saved = await perform(
      () => saveQuestion(question.id, { ...input, edit: sent }),
      (done) => {
        draft.forget(false);
        setEdit(done.edit);
        setTheirs(null);
        setState('saved');
        setNote(
          done.newVersion
            ? `Saved as version ${done.version}; papers that hold an earlier version keep it.`
            : `Saved ${clock()}.`,
        );
        if (andNext) onNext?.(content.type);
      },
    );
    if (!saved) {
      const found = await openQuestion?.(question.id).catch(() => null);
      if (found?.ok && found.value.edit !== sent) setTheirs(found.value);
    }
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

  const shown = [
    'shortName',
    'points',
    'categoryId',
    ...problems.map((problem) => problem.field ?? '').filter((field) => field.startsWith('content.')),
  ];
  return (
    <AuthoringProvider value={authoring}>
      <Sheet label={isNew ? `New question: ${questionTypeNames[content.type]}` : 'Question'} className="min-w-0">
        {theirs && (
          <Superseded
            mine={fields}
            theirs={theirs}
            objectives={bank.objectives}
            onMine={() => void save(false, theirs.edit)}
            onTheirs={() => {
              draft.forget(true);
              fill(fieldsOf(theirs));
              setEdit(theirs.edit);
              setTheirs(null);
              setProblems([]);
              setState('untouched');
              setNote('This is the other person’s text.');
            }}
          />
        )}
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the keys work in every field of the sheet */}
        <div
          onKeyDown={(event) => {
            onKey(event);
            tabToNextText(event);
          }}
          className="space-y-5 px-5 py-4"
          key={round}
        >
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
              placeholder={pointsText(question.usualPoints)}
              value={fields.points}
              onChange={(event) => change({ points: event.target.value })}
              problem={problemAt(problems, 'points')}
            />
          </div>
          <RichEditor
            label={`${questionTypeNames[content.type]}: ${content.type === 'true-false' ? 'the statement' : content.type === 'gap-fill' ? 'the text with its gaps' : 'the question'}`}
            writes
            begins={isNew}
            value={content.stem}
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
              const value = content.feedback[part];
              return value ? (
                <RichEditor
                  key={part}
                  low
                  label={label}
                  value={value}
                  onChange={(rich) => setFeedback(part, rich)}
                  problem={contentProblem(problems, `feedback.${part}`)}
                />
              ) : null;
            })}
            <p className="flex flex-wrap gap-x-4 text-sm">
              {feedbackParts
                .filter(([part]) => !content.feedback[part])
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
            <LabelFields
              objectives={bank.objectives}
              known={bank.tags}
              tags={fields.tags}
              chosen={fields.objectives}
              onTags={(tags) => change({ tags })}
              onObjectives={(objectives) => change({ objectives })}
              passages={bank.passages}
              passageId={fields.passageId}
              onPassage={(passageId) => change({ passageId })}
              passagesHref={`${bank.base}/passages`}
            />
          </div>
          <QuestionPreview
            content={content}
            points={fields.points.trim() === '' ? question.usualPoints : numberIn(fields.points) || 0}
          />
          {!isNew && <UsagePanel question={question} />}
        </div>
        <footer className="sticky bottom-0 z-10 flex flex-wrap items-center gap-2 border-t border-line bg-sheet px-5 py-2.5">
          <span role="status" className="min-w-48 flex-1 text-sm text-ink-2">
            {problems.length > 0 && !theirs && (
              <span className="text-brick">
                Not saved: {counted(new Set(problems.map((one) => one.message)).size, 'thing is', 'things are')} to be
                mended above.{' '}
              </span>
            )}
            {state === 'unsaved'
              ? `${problems.length > 0 ? '' : 'Not saved yet. '}${note}`
              : note ||
                (question.versions.length > 0
                  ? `Version ${question.version}${question.frozen ? ', stands on papers: an edit makes the next version' : ''}`
                  : '')}
          </span>
          <Problems problems={problemsBesides(problems, shown)} className="w-full" />
          {state === 'unsaved' && (
            <Button
              look="quiet"
              disabled={busy}
              onClick={() => {
                draft.forget(true);
                fill(fieldsOf(question));
                setEdit(question.edit);
                setProblems([]);
                setState('untouched');
                setNote('Back to what was saved.');
              }}
            >
              Give up the changes
            </Button>
          )}
          {!isNew && retireQuestion && (
            <Button
              look="quiet"
              disabled={busy}
              onClick={() =>
                void perform(
                  () => retireQuestion(question.id),
                  ({ auditId }) => onRetired?.(auditId),
                )
              }
            >
              Retire
            </Button>
          )}
          <Button
            disabled={busy}
            keys="Ctrl+Enter"
            title="Begins the next of the same kind"
            onClick={() => void save(true)}
          >
            Save and write another
          </Button>
          <Button look="main" disabled={busy} keys="Ctrl+S" onClick={() => void save(false)}>
            Save
          </Button>
        </footer>
      </Sheet>
    </AuthoringProvider>
  );
}

/** A blank question with the settings of the one just written. */
const blankLike = (blank: QuestionContent, written: QuestionContent): QuestionContent =>
  beginContent(blank.type, { settings: settingsIn(written) });

const clock = () => new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

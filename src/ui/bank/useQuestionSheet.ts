'use client';
import { useCallback, useEffect, useReducer, useRef } from 'react';
import { listed } from '@/core/base/words';
import { beginContent, settingsIn } from '@/core/question/beginning';
import { type QuestionContent, withoutEmptyParts } from '@/core/question/content';
import type { QuestionType } from '@/core/question/types';
import { numberIn } from '../kit/numberIn';
import { usePerform } from '../kit/usePerform';
import { type Fields, fieldsOf, joinedFields } from './fields';
import type { OpenQuestion, SheetCommands } from './model';
import { saveQuestionOnce, type UnansweredSave } from './savingQuestion';
import { useDraft } from './useDraft';

/** What a sheet tells the page around it. */
export type SheetEvents = {
  onSaved: (questionId: string) => void;
  /** A new question has been saved and the next of its kind begun. */
  onAdded?: () => void;
  onNext?: (type: QuestionType) => void;
  onRetired?: (auditId: number) => void;
};

type State = {
  fields: Fields;
  /** The edit that the fields began from. */
  edit: number;
  state: 'untouched' | 'unsaved' | 'saved';
  note: string;
  /** Raised when the fields are filled from outside, so that the text editors begin anew with them. */
  round: number;
  openGap: string | null;
  /** What someone else saved meanwhile. */
  theirs: OpenQuestion | null;
  /** What was given up just now, and can be brought back. */
  givenUp: Fields | null;
  /** Papers that hold another key than was just saved, and how many answers that concerns; null where none does. */
  oldKeys: { papers: number; changing: number } | null;
};

const begin = (question: OpenQuestion): State => ({
  fields: fieldsOf(question),
  edit: question.edit,
  state: 'untouched',
  note: '',
  round: 0,
  openGap: null,
  theirs: null,
  givenUp: null,
  oldKeys: null,
});

/** Fields that come from outside: the text editors begin anew with them. */
const filled = (before: State, next: Partial<State> & { fields: Fields }): Partial<State> => ({
  round: before.round + 1,
  ...next,
});

/** A blank question with the settings of the one just written. */
const blankLike = (blank: QuestionContent, written: QuestionContent): QuestionContent =>
  beginContent(blank.type, { settings: settingsIn(written) });

/** Everything that happens on a question's sheet: typing, keeping a draft, saving, and meeting someone else's save. */
export function useQuestionSheet(bankId: string, question: OpenQuestion, commands: SheetCommands, events: SheetEvents) {
  const { perform, problems, busy, setProblems } = usePerform();
  const [sheet, put] = useReducer(
    (before: State, next: Partial<State> | ((before: State) => Partial<State>)): State => ({
      ...before,
      ...(typeof next === 'function' ? next(before) : next),
    }),
    question,
    begin,
  );
  const isNew = question.id === '';
  const draft = useDraft<Fields>(bankId, question.id || `new/${question.content.type}`, commands, (where) =>
    put({
      note: where === 'server' ? 'Draft kept.' : 'The draft is kept in this browser; the server cannot be reached.',
    }),
  );
  /** What is on the sheet now: two changes may come before the sheet is drawn again. */
  const now = useRef(sheet.fields);
  now.current = sheet.fields;
  /** What stood on the sheet at its edit; null where what is on it was begun from an edit that is not known any more. */
  const base = useRef<Fields | null>(fieldsOf(question));
  /** A save that was sent and never answered: the server is asked about it before anything else is saved. */
  const unanswered = useRef<UnansweredSave | null>(null);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a draft is looked for once, when the sheet opens
  useEffect(() => {
    const found = draft.newest(question.draft);
    if (!found || found.fields.content?.type !== question.content.type) return;
    unanswered.current = found.unanswered;
    const fields = { ...fieldsOf(question), ...found.fields };
    if (found.edit !== question.edit) base.current = null;
    const note = 'What you typed here before has been brought back.';
    put((before) => filled(before, { fields, edit: found.edit, state: 'unsaved', note }));
  }, []);

  const change = (part: Partial<Fields>) => {
    const fields = { ...now.current, ...part };
    now.current = fields;
    put({ fields, state: 'unsaved', givenUp: null });
    draft.keep(sheet.edit, fields, unanswered.current);
  };

  /** Gives what is typed up for what is saved. */
  const backTo = (saved: OpenQuestion, note: string) => {
    draft.forget(true);
    base.current = fieldsOf(saved);
    put((before) =>
      filled(before, { fields: fieldsOf(saved), edit: saved.edit, theirs: null, state: 'untouched', note }),
    );
    setProblems([]);
  };

  /** @param joined what was taken from someone else who has saved meanwhile, in words; null for nothing */
  const saveFields = async (
    { fields, edit }: Pick<State, 'fields' | 'edit'>,
    andNext: boolean,
    joined: string | null = null,
  ): Promise<void> => {
    const typed = fields.points.trim();
    const input = {
      ...fields,
      points: typed === '' ? null : numberIn(typed),
      content: withoutEmptyParts(fields.content),
    };
    const send = (at: { questionId: string | null; edit: number }) =>
      saveQuestionOnce(
        {
          commands,
          note: (save) => {
            unanswered.current = save;
            if (save) draft.jot(edit, now.current, save);
          },
        },
        { ...at, input },
        unanswered.current,
      );
    if (isNew) {
      const added = await perform(
        () => draft.quiet().then(() => send({ questionId: null, edit: 0 })),
        ({ questionId }) => {
          draft.forget(false);
          if (!andNext) return events.onSaved(questionId);
          events.onAdded?.();
          const { categoryId, difficulty, points, tags, objectives, passageId } = fields;
          const content = blankLike(question.content, fields.content);
          const next = { ...fieldsOf(question), categoryId, difficulty, points, tags, objectives, passageId, content };
          put((before) => filled(before, { fields: next, state: 'untouched', note: 'Saved. Here is the next.' }));
        },
      );
      if (!added) draft.keep(edit, now.current, unanswered.current);
      return;
    }
    const { openQuestion } = commands;
    const saved = await perform(
      () => draft.quiet().then(() => send({ questionId: question.id, edit })),
      (done) => {
        draft.forget(false);
        base.current = fields;
        const saved = done.newVersion
          ? `Saved as version ${done.version}; papers that hold an earlier version keep it.`
          : 'Saved.';
        const note = joined
          ? `${saved} Someone else had changed ${joined} meanwhile: it stands as they saved it.`
          : saved;
        put({ edit: done.edit, theirs: null, state: 'saved', note, oldKeys: null });
        if (done.newVersion)
          void commands
            .oldKeyPapers?.(question.id)
            .then((found) => put({ oldKeys: found.ok && found.value.changing > 0 ? found.value : null }))
            // It is only an offer: the question is saved whether it can be made or not.
            .catch(() => null);
        if (andNext) events.onNext?.(fields.content.type);
      },
    );
    if (!saved) {
      draft.keep(edit, now.current, unanswered.current);
      // What was not answered is asked about first: it may be one’s own.
      if (unanswered.current) return;
      const found = await openQuestion?.(question.id).catch(() => null);
      if (!found?.ok || found.value.edit === edit) return;
      const theirs = found.value;
      const both = base.current && joinedFields(base.current, now.current, fieldsOf(theirs));
      base.current = fieldsOf(theirs);
      if (!both) return put({ theirs });
      now.current = both.fields;
      put((before) => filled(before, { fields: both.fields, theirs: both.touch ? theirs : null }));
      draft.keep(theirs.edit, both.fields, null);
      // Where they do not touch, both are saved; a third who saves in between is looked at side by side.
      if (both.touch || joined !== null) put({ theirs });
      else await saveFields({ fields: both.fields, edit: theirs.edit }, andNext, listed(both.taken));
    }
  };
  /** @param over the edit to save over, where someone else has saved meanwhile */
  const save = (andNext: boolean, over: number | null = null) =>
    saveFields({ fields: now.current, edit: over ?? sheet.edit }, andNext);
  const latest = useRef(save);
  latest.current = save;
  /** Ctrl+S saves; Ctrl+Enter saves and begins the next. */
  const saveByKey = useCallback((event: React.KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey)) return;
    if (event.key === 'Enter' || event.key.toLowerCase() === 's') {
      event.preventDefault();
      void latest.current(event.key === 'Enter');
    }
  }, []);

  const { retireQuestion } = commands;
  return {
    ...sheet,
    isNew,
    problems,
    busy,
    /** The content as it stands now, also between two drawings. */
    contentNow: () => now.current.content,
    change,
    setOpenGap: (openGap: string | null) => put({ openGap }),
    save,
    saveByKey,
    giveUp: () => {
      const { fields } = sheet;
      backTo(question, isNew ? 'Given up.' : 'Back to what was saved.');
      put({ givenUp: fields });
    },
    /** What was given up stands on the sheet again. */
    bringBack: () => {
      const { givenUp } = sheet;
      if (!givenUp) return;
      put((before) => filled(before, { fields: givenUp, state: 'unsaved', note: '', givenUp: null }));
      draft.keep(sheet.edit, givenUp);
    },
    takeTheirs: (theirs: OpenQuestion) => backTo(theirs, 'This is the other person’s text.'),
    retire:
      isNew || !retireQuestion
        ? null
        : () =>
            void perform(
              () => retireQuestion(question.id),
              ({ auditId }) => events.onRetired?.(auditId),
            ),
  };
}

export type QuestionSheetState = ReturnType<typeof useQuestionSheet>;

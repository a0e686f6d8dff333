'use client';
import type { QuestionContent } from '@/core/question/content';
import { questionTypeNames } from '@/core/question/definitions';
import { variationOf } from '@/core/question/variables/variation';
import { numberIn } from '../kit/numberIn';
import { Sheet } from '../kit/Page';
import { type Authoring, AuthoringProvider } from '../question/authoring';
import { contentProblem } from '../question/editing';
import { editingOf, QuestionEditor } from '../question/QuestionEditor';
import { RichEditor } from '../question/rich/RichEditor';
import { followPress, tabToNextText } from '../question/textOrder';
import { FeedbackFields } from './FeedbackFields';
import { LabelFields } from './LabelFields';
import type { BankPageProps, OpenQuestion, SheetCommands } from './model';
import { QuestionFacts } from './QuestionFacts';
import { QuestionPreview } from './QuestionPreview';
import { SheetFoot } from './SheetFoot';
import { Superseded } from './Superseded';
import { storeMedia } from './storeMedia';
import { UsagePanel } from './UsagePanel';
import { type SheetEvents, useQuestionSheet } from './useQuestionSheet';

/** The bank around a question. */
export type SheetBank = Pick<BankPageProps, 'bankId' | 'categories' | 'objectives' | 'tags' | 'passages' | 'base'> & {
  commands: SheetCommands;
};

type Props = SheetEvents & { question: OpenQuestion; bank: SheetBank };

/** One question, edited in place. What is typed is kept, in this browser and on the server, until it is saved. */
export function QuestionSheet({ question, bank, ...events }: Props) {
  const sheet = useQuestionSheet(bank.bankId, question, bank.commands, events);
  const { fields, problems, theirs, change, contentNow } = sheet;
  const { content } = fields;
  const editing = editingOf(content.type);
  const makeGap = (words: string): string => {
    const made = editing.makeGap?.(contentNow(), words);
    if (!made) return '';
    change({ content: made.content });
    sheet.setOpenGap(made.id);
    return made.id;
  };
  const authoring: Authoring = {
    variables: variationOf(content).variables ?? [],
    gapText: (id) => editing.gapText(content, id),
    openGap: sheet.setOpenGap,
    store: (file) => storeMedia(`${bank.base}/media`, file),
  };
  return (
    <AuthoringProvider value={authoring}>
      <Sheet label={sheet.isNew ? `New question: ${questionTypeNames[content.type]}` : 'Question'} className="min-w-0">
        {theirs && (
          <Superseded
            mine={fields}
            theirs={theirs}
            objectives={bank.objectives}
            onMine={() => void sheet.save(false, theirs.edit)}
            onTheirs={() => sheet.takeTheirs(theirs)}
          />
        )}
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the keys work in every field of the sheet, and every press on it is followed */}
        <div
          onKeyDown={(event) => {
            sheet.saveByKey(event);
            tabToNextText(event);
          }}
          onClickCapture={followPress}
          className="space-y-5 px-5 py-4"
          key={sheet.round}
        >
          <QuestionFacts
            fields={fields}
            categories={bank.categories}
            usualPoints={question.usualPoints}
            problems={problems}
            onChange={change}
          />
          <RichEditor
            label={`${questionTypeNames[content.type]}: ${editing.stem}`}
            writes
            begins={sheet.isNew}
            value={content.stem}
            makeGap={editing.makeGap ? makeGap : undefined}
            onChange={(stem) => change({ content: { ...contentNow(), stem } })}
            problem={contentProblem(problems, 'stem')}
          />
          <QuestionEditor
            content={content}
            onChange={(next) => change({ content: { ...next, stem: contentNow().stem } as QuestionContent })}
            problems={problems}
            openGap={sheet.openGap}
            onOpenGap={sheet.setOpenGap}
          />
          <div className="space-y-3 border-t border-line pt-3">
            <FeedbackFields
              feedback={content.feedback}
              problems={problems}
              onChange={(part, rich) => {
                const current = contentNow();
                change({ content: { ...current, feedback: { ...current.feedback, [part]: rich } } });
              }}
            />
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
          {!sheet.isNew && <UsagePanel question={question} />}
        </div>
        <SheetFoot
          sheet={sheet}
          question={question}
          base={bank.base.slice(0, Math.max(0, bank.base.indexOf('/banks/')))}
        />
      </Sheet>
    </AuthoringProvider>
  );
}

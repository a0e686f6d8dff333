'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { notFound } from '@/core/base/result';
import { emptyRich, type Rich, richText } from '@/core/base/rich';
import { counted } from '@/core/base/words';
import { questionTypeNames } from '@/core/question/definitions';
import type { QuestionType } from '@/core/question/types';
import type { PassageRow } from '@/server/bank/passages';
import { carriedOutOnce } from '../keep/carriedOutOnce';
import { ClashSheet, KeptHere, keptSaid } from '../keep/KeptSaid';
import { useKept } from '../keep/useKept';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextField } from '../kit/Field';
import { Link } from '../kit/Link';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { type Authoring, AuthoringProvider } from '../question/authoring';
import { RichEditor } from '../question/rich/RichEditor';
import { storeMedia } from './storeMedia';

type PassageCommands = Commands<'savePassage' | 'listPassages', 'courseId' | 'bankId'>;
type DropCommands = Commands<'dropPassage' | 'undoChange', 'courseId' | 'bankId'>;
type Props = {
  base: string;
  passages: PassageRow[];
  open: PassageRow | null;
  isNew: boolean;
  questions: { id: string; name: string; type: QuestionType }[];
} & PassageCommands &
  DropCommands;

type SheetProps = Pick<Props, 'base' | 'questions'> &
  PassageCommands & { passage: PassageRow; dropping: boolean; onDrop: () => void };

const sentence = (said: string) => `${said.charAt(0).toUpperCase()}${said.slice(1)}.`;

/** Texts, tables and figures that several questions share: listed at the left, the open one on its sheet. */
export function PassagesPage({ base, passages, open, isNew, questions, dropPassage, undoChange, ...commands }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [dropped, setDropped] = useState<{ auditId: number; name: string } | null>(null);
  return (
    <PageFrame>
      <PageTitle
        title="Passages"
        back={{ href: base, name: 'The bank' }}
        note={`${counted(passages.length, 'text')} that several questions share`}
      >
        <ButtonLink href={`${base}/passages?passage=new`} look="main">
          Write a passage
        </ButtonLink>
      </PageTitle>
      <Problems problems={problems} className="mb-3" />
      {dropped && (
        <Done
          className="mb-3 border border-line"
          onUndo={() =>
            void perform(
              () => undoChange(dropped.auditId),
              () => setDropped(null),
            )
          }
        >
          The passage “{dropped.name}” is deleted.
        </Done>
      )}
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[minmax(280px,2fr)_5fr]">
        <Sheet label="Passages of this bank">
          <ul>
            {passages.map((one) => (
              <li key={one.id} className="border-b border-line last:border-b-0">
                <Link
                  href={`${base}/passages?passage=${one.id}`}
                  aria-current={one.id === open?.id ? 'true' : undefined}
                  className="block px-4 py-2 -outline-offset-2 hover:bg-paper aria-[current]:bg-prussian-wash"
                >
                  <span className="flex justify-between gap-3">
                    <span className="min-w-0 truncate">{one.shortName}</span>
                    <span className="shrink-0 text-sm text-ink-2">{counted(one.questions, 'question')}</span>
                  </span>
                  <span className="block truncate text-sm text-ink-2">{richText(one.content).split('\n')[0]}</span>
                </Link>
              </li>
            ))}
            {passages.length === 0 && <li className="px-4 py-4 text-ink-2">None yet.</li>}
          </ul>
        </Sheet>
        {open || isNew ? (
          <PassageSheet
            key={open?.id ?? 'new'}
            base={base}
            passage={
              open ?? { id: '', shortName: '', content: emptyRich, edit: 0, version: 0, frozen: false, questions: 0 }
            }
            questions={questions}
            dropping={busy}
            onDrop={() =>
              open &&
              void perform(
                () => dropPassage(open.id),
                ({ auditId }) => {
                  setDropped({ auditId, name: open.shortName });
                  router.push(`${base}/passages`);
                },
              )
            }
            {...commands}
          />
        ) : (
          <Empty title="No passage is open">
            A passage is a text, a table or a figure that several questions ask about. They are drawn and shown
            together: an exam draws a passage with so many of its questions.
          </Empty>
        )}
      </div>
    </PageFrame>
  );
}

type PassageText = { shortName: string; content: Rich };

function PassageSheet({ base, passage, questions, savePassage, listPassages, dropping, onDrop }: SheetProps) {
  const router = useRouter();
  const [note, setNote] = useState('');
  const authoring: Authoring = {
    variables: [],
    gapText: () => '',
    openGap: () => undefined,
    store: (file) => storeMedia(`${base}/media`, file),
  };
  const { value, state, round, broughtBack, keeper } = useKept<PassageText>({
    object: `passage${base}/${passage.id || 'new'}`,
    title: passage.shortName ? `The passage ${passage.shortName}` : 'A new passage',
    stored: { edit: passage.edit, value: { shortName: passage.shortName, content: passage.content } },
    pause: null,
    send: async (sent, edit, once) => {
      const answer = await carriedOutOnce(savePassage, once)(passage.id || null, {
        ...sent,
        ...(passage.id ? { edit } : {}),
      });
      if (!answer.ok) return answer;
      const { version, passageId } = answer.value;
      setNote(version > passage.version && passage.id ? `Saved as version ${version}.` : 'Saved.');
      if (passage.id) router.refresh();
      else router.push(`${base}/passages?passage=${passageId}`);
      return answer;
    },
    fetch: async () => {
      const answer = await listPassages();
      if (!answer.ok) return answer;
      const found = answer.value.find((one) => one.id === passage.id);
      if (!found) return notFound('passage');
      const { edit, shortName, content } = found;
      return { ok: true, value: { edit, value: { shortName, content } } };
    },
  });
  const change = (part: Partial<PassageText>) => {
    setNote('');
    keeper.change({ ...keeper.now.value, ...part });
  };
  const problems = state.kind === 'refused' ? state.problems : [];
  const { shortName, content } = value;
  return (
    <AuthoringProvider value={authoring}>
      <Sheet label="Passage">
        <KeptHere state={state} byHand />
        {state.kind === 'clash' && (
          <ClashSheet
            value={value}
            clashes={state.clashes}
            placeSaid={([place]) => (place === 'shortName' ? 'The name' : 'The passage')}
            valueSaid={(said) => (typeof said === 'string' ? said : richText(said as Rich))}
            onSettle={(settled) => {
              keeper.settle(settled);
              void keeper.save();
            }}
          />
        )}
        <div className="space-y-4 px-5 py-4" key={round}>
          <TextField
            label="Name (private)"
            value={shortName}
            onChange={(event) => change({ shortName: event.target.value })}
            problem={problemAt(problems, 'shortName')}
          />
          <RichEditor
            label="The passage"
            value={content}
            onChange={(next) => change({ content: next })}
            problem={problemAt(problems, 'content')}
          />
          {passage.id && (
            <div>
              <h2 className="font-sans text-sm font-medium">Its questions</h2>
              <ul>
                {questions.map((one) => (
                  <li key={one.id}>
                    <TextLink href={`${base}?all=yes&question=${one.id}`}>{one.name}</TextLink>{' '}
                    <span className="text-sm text-ink-2">{questionTypeNames[one.type].toLowerCase()}</span>
                  </li>
                ))}
                {questions.length === 0 && (
                  <li className="text-ink-2">None yet: open a question and choose this passage on its sheet.</li>
                )}
              </ul>
            </div>
          )}
        </div>
        <footer className="sticky bottom-0 flex flex-wrap items-center justify-end gap-2 border-t border-line bg-sheet px-5 py-2.5">
          <span role="status" className="mr-auto text-sm text-ink-2">
            {broughtBack && state.kind === 'typed' && 'What you typed here before has been brought back. '}
            {state.kind !== 'kept'
              ? sentence(keptSaid(state))
              : note || (passage.frozen ? 'Stands on papers: an edit makes the next version' : '')}
          </span>
          <Problems problems={problemsBesides(problems, ['shortName', 'content'])} className="w-full" />
          {state.kind !== 'kept' && (
            <Button look="quiet" onClick={() => keeper.giveUp()}>
              Give up the changes
            </Button>
          )}
          {passage.id && state.kind === 'kept' && (
            <Button
              look="quiet"
              busy={dropping}
              whyNot={
                questions.length > 0
                  ? `${counted(questions.length, 'question belongs', 'questions belong')} to it: give them another passage, or retire them first.`
                  : null
              }
              onClick={onDrop}
            >
              Delete
            </Button>
          )}
          <Button
            look="main"
            busy={state.kind === 'saving'}
            whyNot={keeper.isUnkept ? null : 'Nothing was changed.'}
            onClick={() => void keeper.save()}
          >
            Save
          </Button>
        </footer>
      </Sheet>
    </AuthoringProvider>
  );
}

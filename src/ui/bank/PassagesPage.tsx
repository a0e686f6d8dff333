'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { emptyRich, richText } from '@/core/base/rich';
import { counted } from '@/core/base/words';
import { questionTypeNames } from '@/core/question/definitions';
import type { QuestionType } from '@/core/question/types';
import type { PassageRow } from '@/server/bank/passages';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { TextField } from '../kit/Field';
import { Link } from '../kit/Link';
import { Empty, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { type Authoring, AuthoringProvider } from '../question/authoring';
import { RichEditor } from '../question/rich/RichEditor';
import { storeMedia } from './storeMedia';

type Save = Commands<'savePassage', 'courseId' | 'bankId'>['savePassage'];
type Props = {
  base: string;
  passages: PassageRow[];
  open: PassageRow | null;
  isNew: boolean;
  questions: { id: string; name: string; type: QuestionType }[];
  savePassage: Save;
};

/** Texts, tables and figures that several questions share: listed at the left, the open one on its sheet. */
export function PassagesPage({ base, passages, open, isNew, questions, savePassage }: Props) {
  return (
    <div>
      <PageTitle
        title="Passages"
        back={{ href: base, name: 'The bank' }}
        note={`${counted(passages.length, 'text')} that several questions share`}
      >
        <ButtonLink href={`${base}/passages?passage=new`} look="main">
          Write a passage
        </ButtonLink>
      </PageTitle>
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(280px,2fr)_5fr]">
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
            passage={open ?? { id: '', shortName: '', content: emptyRich, version: 0, frozen: false, questions: 0 }}
            questions={questions}
            savePassage={savePassage}
          />
        ) : (
          <Empty title="No passage is open">
            A passage is a text, a table or a figure that several questions ask about. They are drawn and shown
            together: an exam draws a passage with so many of its questions.
          </Empty>
        )}
      </div>
    </div>
  );
}

function PassageSheet({
  base,
  passage,
  questions,
  savePassage,
}: Pick<Props, 'base' | 'questions' | 'savePassage'> & { passage: PassageRow }) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [shortName, setShortName] = useState(passage.shortName);
  const [content, setContent] = useState(passage.content);
  const [version, setVersion] = useState(passage.version);
  const [note, setNote] = useState('');
  const authoring: Authoring = {
    variables: [],
    gapText: () => '',
    openGap: () => undefined,
    store: (file) => storeMedia(`${base}/media`, file),
  };
  const save = () =>
    perform(
      () => savePassage(passage.id || null, { shortName, content, ...(passage.id ? { version } : {}) }),
      (saved) => {
        setNote(saved.version > version && passage.id ? `Saved as version ${saved.version}.` : 'Saved.');
        setVersion(saved.version);
        if (!passage.id) router.push(`${base}/passages?passage=${saved.passageId}`);
      },
    );
  return (
    <AuthoringProvider value={authoring}>
      <Sheet label="Passage">
        <div className="space-y-4 px-5 py-4">
          <TextField
            label="Name (private)"
            value={shortName}
            onChange={(event) => setShortName(event.target.value)}
            problem={problemAt(problems, 'shortName')}
          />
          <RichEditor
            label="The passage"
            value={content}
            onChange={setContent}
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
            {note || (passage.frozen ? 'Stands on papers: an edit makes the next version' : '')}
          </span>
          <Problems problems={problemsBesides(problems, ['shortName', 'content'])} className="w-full" />
          <Button look="main" disabled={busy} onClick={() => void save()}>
            Save
          </Button>
        </footer>
      </Sheet>
    </AuthoringProvider>
  );
}

'use client';
import { useRef, useState } from 'react';
import { type Rich, richFromText } from '@/core/base/rich';
import { counted } from '@/core/base/words';
import { fileKindNames } from '@/core/question/types/written/fileKinds';
import { countWords, longestWritten, type WrittenText, type WrittenView } from '@/core/question/types/written/student';
import { TextArea } from '../../kit/Field';
import { TextButton } from '../../kit/TextButton';
import type { PlayerProps } from '../playing';
import { FormedText } from './FormedText';

/** Room for an answer in one's own words, with a live count, and for files where they are asked for. */
export function WrittenPlayer({ view, response, onRespond, disabled, files }: PlayerProps<WrittenView, WrittenText>) {
  if (view.onPaper) return <p className="text-base text-ink-2">Write your answer on the paper.</p>;
  const handed = response?.files ?? [];
  const text = response?.text ?? '';
  const respond = (next: WrittenText) => onRespond(next.text === '' && !next.files?.length ? undefined : next);
  const withFiles = (list: WrittenText['files']) => (list?.length ? { files: list } : {});
  const hint = wordSentence(countWords(text), view.words);
  return (
    <div className="space-y-3">
      {view.format === 'rich' ? (
        <FormedText
          label="Your answer"
          hint={hint}
          disabled={disabled}
          value={response?.rich ?? richFromText(text)}
          onChange={(rich: Rich, plain: string) => respond({ text: plain, rich, ...withFiles(handed) })}
        />
      ) : (
        <TextArea
          label="Your answer"
          rows={9}
          maxLength={longestWritten}
          disabled={disabled}
          value={text}
          onChange={(event) => respond({ text: event.target.value, ...withFiles(handed) })}
          hint={hint}
        />
      )}
      {view.files && (
        <Files
          view={view.files}
          handed={handed}
          disabled={disabled}
          files={files}
          onChange={(list) => respond({ ...response, text, files: list })}
        />
      )}
    </div>
  );
}

type FilesProps = {
  view: NonNullable<WrittenView['files']>;
  handed: NonNullable<WrittenText['files']>;
  disabled?: boolean;
  files: PlayerProps<WrittenView, WrittenText>['files'];
  onChange: (files: NonNullable<WrittenText['files']>) => void;
};

const accept = {
  pdf: '.pdf',
  picture: '.png,.jpg,.jpeg,.webp',
  text: '.txt',
  document: '.docx,.odt',
  spreadsheet: '.xlsx,.ods',
  sound: '.mp3,.ogg,.wav',
};

function Files({ view, handed, disabled, files, onChange }: FilesProps) {
  const [problem, setProblem] = useState('');
  const [sending, setSending] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const send = async (file: File) => {
    setProblem('');
    if (file.size > view.megabytes * 1_000_000) {
      setProblem(`“${file.name}” is larger than ${view.megabytes} MB.`);
      return;
    }
    setSending(file.name);
    const sent = files
      ? await files.send(file)
      : { ok: false as const, message: 'Files cannot be handed in in this preview.' };
    setSending('');
    if (input.current) input.current.value = '';
    if (sent.ok) onChange([...handed, { id: sent.id, name: file.name, size: file.size }]);
    else setProblem(sent.message);
  };
  return (
    <div>
      <p className="text-base">
        You may hand in {view.most === 1 ? 'a file' : `up to ${view.most} files`} of at most {view.megabytes} MB:{' '}
        {view.kinds.map((kind) => fileKindNames[kind]).join(', ')}.
      </p>
      <ul className="my-1 text-base">
        {handed.map((file) => (
          <li key={file.id} className="flex items-center gap-3">
            {files ? files.link(file.id, file.name) : file.name}
            <span className="text-sm text-ink-2">{Math.max(1, Math.round(file.size / 1000))} kB</span>
            <TextButton
              disabled={disabled}
              className="text-sm"
              onClick={() => onChange(handed.filter((one) => one.id !== file.id))}
            >
              Take out <span className="sr-only">{file.name}</span>
            </TextButton>
          </li>
        ))}
      </ul>
      {handed.length < view.most && (
        <input
          ref={input}
          type="file"
          aria-label="Choose a file to hand in"
          disabled={disabled || sending !== ''}
          accept={view.kinds.map((kind) => accept[kind]).join(',')}
          onChange={(event) => event.target.files?.[0] && void send(event.target.files[0])}
          className="max-w-full text-base file:mr-3 file:min-h-9 file:rounded-sm file:border file:border-edge file:bg-sheet file:px-3"
        />
      )}
      <p role="status" className="text-base">
        {sending && `Sending ${sending} …`}
      </p>
      {problem && (
        <p role="alert" className="text-base text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}

function wordSentence(count: number, { least, most }: WrittenView['words']): string {
  const said = counted(count, 'word');
  if (least !== null && count < least) return `${said}; at least ${least} are asked for`;
  if (most !== null && count > most) return `${said}; at most ${most} are asked for`;
  if (least !== null && most !== null) return `${said}; between ${least} and ${most} are asked for`;
  return most !== null ? `${said} of at most ${most}` : said;
}

'use client';
import { useState } from 'react';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { TextField } from '../kit/Field';
import { SentencePiece } from '../kit/SentencePiece';
import { usePerform } from '../kit/usePerform';

type ExamLabels = { year: string; subject: string; level: string };

const names: [keyof ExamLabels, string][] = [
  ['year', 'Year or term'],
  ['subject', 'Subject'],
  ['level', 'Level'],
];

/** What finds the exam again next year; each label opens its own small editor. */
export function LabelPieces({
  labels: begun,
  mayChange,
  labelExam,
}: {
  labels: ExamLabels;
  mayChange: boolean;
  labelExam: Commands<'labelExam', 'courseId' | 'examId'>['labelExam'];
}) {
  const [labels, setLabels] = useState(begun);
  const { perform, problems } = usePerform();
  if (!mayChange) {
    const said = names.flatMap(([key]) => labels[key] || []).join(' · ');
    return said ? <p className="text-sm text-ink-2">{said}</p> : null;
  }
  return (
    <div className="text-sm">
      {names.map(([key, name], i) => (
        <span key={key}>
          {i > 0 && ' · '}
          <SentencePiece
            quiet={labels[key] === ''}
            says={labels[key] || name.toLowerCase()}
            label={`${name}: ${labels[key] || 'not set'}`}
          >
            {(close) => (
              <LabelField
                name={name}
                text={labels[key]}
                problem={problems[0]?.message ?? null}
                onSet={(text) =>
                  perform(
                    () => labelExam({ ...labels, [key]: text }),
                    () => {
                      setLabels({ ...labels, [key]: text });
                      close();
                    },
                  )
                }
              />
            )}
          </SentencePiece>
        </span>
      ))}
    </div>
  );
}

function LabelField({
  name,
  text,
  problem,
  onSet,
}: {
  name: string;
  text: string;
  problem: string | null;
  onSet: (text: string) => void;
}) {
  const [typed, setTyped] = useState(text);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onSet(typed.trim());
      }}
    >
      <TextField
        label={name}
        className="w-48"
        autoFocus
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        problem={problem}
      />
      <Button type="submit">Done</Button>
    </form>
  );
}

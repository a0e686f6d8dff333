'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import type { DrawLine, FixedLine, PassageLine } from '@/core/exam/design';
import { difficulties, type QuestionType, questionTypeNames, questionTypes } from '@/core/question/types';
import { Button } from '../kit/Button';
import { SelectField, TextField } from '../kit/Field';
import { SentencePiece } from '../kit/SentencePiece';
import { SuccessRangeFields, successSaid } from '../question/SuccessRangeFields';

const passagesSaid = (count: number) => (count === 1 ? 'passage' : 'passages');
const pointsSaid = (points: number) => `${pointsText(points)} ${points === 1 ? 'point' : 'points'}`;

/** "Draw 3 from Tides › Heights, medium, 2 points each": each underlined piece opens its own small editor. */
export function DrawSentence({
  line,
  categories,
  mayChange,
  onChange,
}: {
  line: DrawLine | PassageLine;
  categories: { id: string; name: string }[];
  mayChange: boolean;
  onChange: (line: DrawLine | PassageLine) => void;
}) {
  const [first] = line.pool.categories;
  const category = categories.find((one) => one.id === first?.id);
  const difficulty = line.pool.difficulties.length ? line.pool.difficulties.join(' or ') : 'any difficulty';
  const types = line.pool.types?.length
    ? line.pool.types.map((type) => questionTypeNames[type].toLowerCase()).join(' or ')
    : 'any type';
  const success = successSaid(line.pool.success);
  const where = `${category?.name ?? 'a category that is gone'}${category && !first?.below ? ' alone' : ''}`;
  if (!mayChange)
    return (
      <span>
        Draw {line.count}{' '}
        {line.kind === 'passage' && `${passagesSaid(line.count)} with ${line.questions} questions each `}from {where},{' '}
        {difficulty}, {types}, {success}, {pointsSaid(line.points)} each
      </span>
    );
  return (
    <span>
      Draw{' '}
      <SentencePiece says={line.count} label={`How many to draw: ${line.count}`}>
        {(close) => (
          <NumberPiece
            label="How many questions"
            value={line.count}
            whole
            onSet={(count) => onChange({ ...line, count })}
            onDone={close}
          />
        )}
      </SentencePiece>{' '}
      {line.kind === 'passage' && (
        <>
          {passagesSaid(line.count)} with{' '}
          <SentencePiece says={line.questions} label={`Questions of each passage: ${line.questions}`}>
            {(close) => (
              <NumberPiece
                label="Questions of each passage"
                value={line.questions}
                whole
                onSet={(questions) => onChange({ ...line, questions })}
                onDone={close}
              />
            )}
          </SentencePiece>{' '}
          {line.questions === 1 ? 'question' : 'questions'} each{' '}
        </>
      )}
      from{' '}
      <SentencePiece says={where} label={`Where from: ${where}`} wrong={!category}>
        {(close) => (
          <div className="w-72 space-y-2">
            <SelectField
              label="Category"
              value={category?.id ?? ''}
              onChange={(event) =>
                onChange({
                  ...line,
                  pool: { ...line.pool, categories: [{ id: event.target.value, below: first?.below ?? true }] },
                })
              }
            >
              {!category && <option value="">choose one</option>}
              {categories.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </SelectField>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-prussian"
                checked={first?.below ?? true}
                onChange={(event) =>
                  onChange({
                    ...line,
                    pool: { ...line.pool, categories: [{ id: first?.id ?? '', below: event.target.checked }] },
                  })
                }
              />
              with everything below it
            </label>
            <Button onClick={close}>Done</Button>
          </div>
        )}
      </SentencePiece>
      ,{' '}
      <SentencePiece says={difficulty} label={`Difficulty: ${difficulty}`}>
        {(close) => (
          <fieldset className="space-y-1">
            <legend className="text-sm font-medium">Difficulty</legend>
            {difficulties.map((one) => (
              <label key={one} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-prussian"
                  checked={line.pool.difficulties.includes(one)}
                  onChange={(event) => {
                    const chosen = difficulties.filter((each) =>
                      each === one ? event.target.checked : line.pool.difficulties.includes(each),
                    );
                    onChange({ ...line, pool: { ...line.pool, difficulties: chosen } });
                  }}
                />
                {one}
              </label>
            ))}
            <p className="max-w-52 text-sm text-ink-2">None ticked means any, also questions without one.</p>
            <Button onClick={close}>Done</Button>
          </fieldset>
        )}
      </SentencePiece>
      ,{' '}
      <SentencePiece says={types} label={`Type: ${types}`}>
        {(close) => (
          <fieldset className="space-y-1">
            <legend className="text-sm font-medium">Type</legend>
            {questionTypes.map((one) => (
              <label key={one} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-prussian"
                  checked={line.pool.types?.includes(one) ?? false}
                  onChange={(event) => {
                    const chosen = questionTypes.filter((each) =>
                      each === one ? event.target.checked : line.pool.types?.includes(each),
                    );
                    onChange({ ...line, pool: { ...line.pool, types: chosen } });
                  }}
                />
                {questionTypeNames[one]}
              </label>
            ))}
            <p className="max-w-52 text-sm text-ink-2">None ticked means any.</p>
            <Button onClick={close}>Done</Button>
          </fieldset>
        )}
      </SentencePiece>
      ,{' '}
      <SentencePiece says={success} label={`Success rate: ${success}`}>
        {(close) => (
          <>
            <SuccessRangeFields
              value={line.pool.success ?? null}
              onChange={(range) => onChange({ ...line, pool: { ...line.pool, success: range ?? undefined } })}
            />
            <Button onClick={close}>Done</Button>
          </>
        )}
      </SentencePiece>
      ,{' '}
      <SentencePiece says={pointsSaid(line.points)} label={`Points each: ${pointsSaid(line.points)}`}>
        {(close) => (
          <NumberPiece
            label="Points each"
            value={line.points}
            onSet={(points) => onChange({ ...line, points })}
            onDone={close}
          />
        )}
      </SentencePiece>{' '}
      each
    </span>
  );
}

/** A fixed question with its points. */
export function FixedSentence({
  line,
  question,
  mayChange,
  onChange,
}: {
  line: FixedLine;
  question: { name: string; type: QuestionType } | null;
  mayChange: boolean;
  onChange: (line: FixedLine) => void;
}) {
  return (
    <span>
      <span className={question ? 'font-serif' : 'text-brick'}>{question?.name ?? 'A question that is gone'}</span>
      {question && <span className="text-ink-2"> ({questionTypeNames[question.type].toLowerCase()})</span>},{' '}
      {mayChange ? (
        <SentencePiece says={pointsSaid(line.points)} label={`Points: ${pointsSaid(line.points)}`}>
          {(close) => (
            <NumberPiece
              label="Points"
              value={line.points}
              onSet={(points) => onChange({ ...line, points })}
              onDone={close}
            />
          )}
        </SentencePiece>
      ) : (
        pointsSaid(line.points)
      )}
    </span>
  );
}

/** A number in a small editor; what is not a number above 0 is not taken over. */
function NumberPiece({
  label,
  value,
  whole,
  onSet,
  onDone,
}: {
  label: string;
  value: number;
  whole?: boolean;
  onSet: (value: number) => void;
  onDone: () => void;
}) {
  const [text, setText] = useState(pointsText(value));
  const number = Number(text.replace(',', '.'));
  const fits = text.trim() !== '' && Number.isFinite(number) && number > 0 && (!whole || Number.isInteger(number));
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (fits) onDone();
      }}
    >
      <TextField
        label={label}
        className="w-36"
        inputMode="decimal"
        autoFocus
        value={text}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setText(event.target.value);
          const next = Number(event.target.value.replace(',', '.'));
          if (
            event.target.value.trim() !== '' &&
            Number.isFinite(next) &&
            next > 0 &&
            (!whole || Number.isInteger(next))
          )
            onSet(next);
        }}
        problem={fits ? null : whole ? 'A whole number, at least 1.' : 'A number above 0.'}
      />
      <Button type="submit">Done</Button>
    </form>
  );
}

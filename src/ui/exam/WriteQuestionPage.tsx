'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { questionTypeNames } from '@/core/question/definitions';
import { type QuestionType, questionTypes } from '@/core/question/types';
import type { OpenQuestion } from '../bank/model';
import { QuestionSheet, type SheetBank } from '../bank/QuestionSheet';
import { SelectField } from '../kit/Field';
import { PageFrame, PageTitle } from '../kit/Page';

type Props = {
  exam: { href: string; title: string; part: string };
  here: { part: string; bank: string; type: QuestionType };
  banks: { id: string; name: string }[];
  question: OpenQuestion;
  bank: SheetBank;
};

/** A new question written for an exam: it goes into a bank, and onto a fixed line of the part it was begun from. */
export function WriteQuestionPage({ exam, here, banks, question, bank }: Props) {
  const router = useRouter();
  const [written, setWritten] = useState(0);
  const at = (change: Partial<typeof here>) =>
    `${exam.href}/new-question?${new URLSearchParams({ ...here, ...change })}`;
  return (
    <PageFrame width="sheet">
      <PageTitle title={`A new question for ${exam.part}`} back={{ href: exam.href, name: exam.title }} />
      <div className="mb-3 flex flex-wrap gap-4">
        <SelectField
          label="Type"
          className="w-52"
          value={here.type}
          onChange={(event) => router.push(at({ type: event.target.value as QuestionType }))}
        >
          {questionTypes.map((type) => (
            <option key={type} value={type}>
              {questionTypeNames[type]}
            </option>
          ))}
        </SelectField>
        {banks.length > 1 && (
          <SelectField
            label="Kept in the bank"
            className="w-64"
            value={here.bank}
            onChange={(event) => router.push(at({ bank: event.target.value }))}
          >
            {banks.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </SelectField>
        )}
      </div>
      {written > 0 && (
        <p role="status" className="mb-3 text-pine">
          {written === 1 ? 'One question is' : `${written} questions are`} in the bank and on the exam.
        </p>
      )}
      <QuestionSheet
        key={`${here.bank}/${here.type}`}
        question={question}
        bank={bank}
        onSaved={() => router.push(`${exam.href}#part-${here.part}`)}
        onAdded={() => setWritten((count) => count + 1)}
      />
    </PageFrame>
  );
}

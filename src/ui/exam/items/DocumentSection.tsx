'use client';
import { useRef, useState } from 'react';
import type { ExamDesign } from '@/core/exam/design';
import { Button } from '../../kit/Button';
import { Sheet } from '../../kit/Page';
import { PaperDocument } from '../../kit/PaperDocument';
import type { Plan } from '../usePlan';

type Attached = { hash: string; name: string; pages: number };

type Props = {
  base: string;
  examId: string;
  plan: Plan;
  mayChange: boolean;
};

/** The paper as a document: attached by choosing a file, looked at beside the items, taken off again. */
export function DocumentSection({ base, examId, plan, mayChange }: Props) {
  const { design, setDesign } = plan;
  const document = design.offScreen?.document;
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState('');
  const [sending, setSending] = useState(false);
  const set = (offScreen: ExamDesign['offScreen']) => setDesign({ ...design, offScreen });
  const attach = async (file: File) => {
    setProblem('');
    setSending(true);
    try {
      const query = new URLSearchParams({ name: file.name });
      const answer = await fetch(`${base}/exams/${examId}/document?${query}`, { method: 'POST', body: file });
      const body = (await answer.json()) as Partial<Attached> & { problems?: { message: string }[] };
      if (answer.ok && body.hash && body.name)
        set({ document: { hash: body.hash, name: body.name, shown: document?.shown ?? false } });
      else setProblem(body.problems?.[0]?.message ?? 'The document could not be taken.');
    } catch {
      setProblem('The server could not be reached: the document has not been sent. Try again.');
    }
    setSending(false);
    if (input.current) input.current.value = '';
  };
  return (
    <Sheet label="The paper" className="px-4 py-3">
      <h2 className="text-lg">The paper as a document</h2>
      {document ? (
        <div className="mt-1">
          <PaperDocument name={document.name} address={`/documents/${examId}/${document.hash}`} />
          {mayChange && (
            <Button look="quiet" onClick={() => set({})}>
              Take it off
            </Button>
          )}
          {mayChange && (
            <label className="mt-1 flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-prussian"
                checked={document.shown}
                onChange={(event) => set({ document: { ...document, shown: event.target.checked } })}
              />
              Students see it while they answer
            </label>
          )}
        </div>
      ) : (
        <p className="mt-1 text-ink-2">
          Attach the paper as a PDF, so that its questions can be seen beside items, answers and results.
        </p>
      )}
      {mayChange && (
        <input
          ref={input}
          type="file"
          accept=".pdf,application/pdf"
          aria-label={document ? 'Attach another document instead' : 'Attach the paper, a PDF'}
          disabled={sending}
          onChange={(event) => event.target.files?.[0] && void attach(event.target.files[0])}
          className="mt-2 max-w-full file:mr-3 file:min-h-9 file:rounded-sm file:border file:border-edge file:bg-sheet file:px-3"
        />
      )}
      <p role="status" className="text-sm">
        {sending && 'Sending …'}
      </p>
      {problem && (
        <p role="alert" className="text-brick">
          {problem}
        </p>
      )}
    </Sheet>
  );
}

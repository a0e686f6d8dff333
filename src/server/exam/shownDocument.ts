import type { ExamDesign } from '@/core/exam/design';

/** A document of an exam, and where a browser gets it. */
export type ShownDocument = { name: string; address: string };

/** The paper that an off-screen exam names; whoever asks for it there is asked who they are. */
export function documentOf(examId: string, { offScreen }: ExamDesign): ShownDocument | null {
  const document = offScreen?.document;
  return document ? { name: document.name, address: `/documents/${examId}/${document.hash}` } : null;
}

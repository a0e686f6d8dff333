'use client';
import type { ExamDesign } from '@/core/exam/design';
import { Sheet } from '../kit/Page';
import { RichEditor } from '../question/rich/RichEditor';

/** The instructions that students read on the first page. */
export const InstructionsSheet = ({
  design,
  onChange,
}: {
  design: ExamDesign;
  onChange: (design: ExamDesign) => void;
}) => (
  <Sheet label="Instructions" className="px-4 py-3">
    <RichEditor
      low
      label="Instructions to the student"
      value={design.instructions}
      onChange={(instructions) => onChange({ ...design, instructions })}
    />
  </Sheet>
);

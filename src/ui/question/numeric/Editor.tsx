'use client';
import type { NumericContent } from '@/core/question/types/numeric/content';
import type { EditorProps } from '../editing';
import { useSample } from '../variables/useSample';
import { VariationEditor } from '../variables/VariationEditor';
import { AcceptedNumbers } from './AcceptedNumbers';

/** The accepted values of a number, and its variables. */
export function NumericEditor({ content, onChange, problems }: EditorProps<NumericContent>) {
  const settled = useSample(content);
  return (
    <div className="space-y-4">
      <AcceptedNumbers
        value={content}
        onChange={({ accepted, units }) => onChange({ ...content, accepted, units })}
        problems={problems}
        path=""
        formulas={Boolean(content.variables?.length)}
        settled={settled}
      />
      <VariationEditor content={content} onChange={onChange} problems={problems} />
    </div>
  );
}

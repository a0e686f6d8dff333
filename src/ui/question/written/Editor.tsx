'use client';
import type { WrittenContent } from '@/core/question/types/written/content';
import { TextField } from '../../kit/Field';
import { contentProblem, type EditorProps } from '../editing';
import { RichEditor } from '../RichEditor';

/** Model answer and word limits. */
export function WrittenEditor({ content, onChange, problems }: EditorProps<WrittenContent>) {
  const words = (name: 'least' | 'most') => (
    <TextField
      label={name === 'least' ? 'At least … words' : 'At most … words'}
      className="w-36"
      type="number"
      min={0}
      value={content.words[name] ?? ''}
      onChange={(event) =>
        onChange({
          ...content,
          words: { ...content.words, [name]: event.target.value === '' ? null : Number(event.target.value) },
        })
      }
      problem={contentProblem(problems, `words.${name}`)}
    />
  );
  return (
    <div className="space-y-3">
      <RichEditor
        label="Model answer (for markers)"
        value={content.modelAnswer}
        onChange={(modelAnswer) => onChange({ ...content, modelAnswer })}
      />
      <div className="flex gap-3">
        {words('least')}
        {words('most')}
      </div>
      {contentProblem(problems, 'words') && <p className="text-sm text-brick">{contentProblem(problems, 'words')}</p>}
    </div>
  );
}

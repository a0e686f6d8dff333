'use client';
import { Plus } from 'lucide-react';
import type { WrittenContent } from '@/core/question/types/written/content';
import { fileKindNames, fileKinds } from '@/core/question/types/written/fileKinds';
import { Button } from '../../kit/Button';
import { SelectField } from '../../kit/Field';
import { NumberField } from '../../kit/NumberField';
import { contentProblem, type EditorProps } from '../editing';
import { NumberText } from '../NumberText';
import { RichEditor } from '../rich/RichEditor';
import { blankCriterion, RubricEditor } from './RubricEditor';

/** Model answer, rubric, word limits, form, and files that may be handed in. */
export function WrittenEditor({ content, onChange, problems }: EditorProps<WrittenContent>) {
  const { files } = content;
  const words = (name: 'least' | 'most') => (
    <NumberField
      whole
      label={name === 'least' ? 'At least … words' : 'At most … words'}
      className="w-36"
      value={content.words[name] ?? ''}
      onChange={(event) => {
        const digits = event.target.value.replace(/\D/g, '');
        onChange({ ...content, words: { ...content.words, [name]: digits === '' ? null : Number(digits) } });
      }}
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
      {content.rubric && (
        <RubricEditor
          rubric={content.rubric}
          problems={problems}
          onChange={(rubric) => onChange({ ...content, rubric })}
        />
      )}
      <div className="flex flex-wrap items-end gap-3">
        {words('least')}
        {words('most')}
        <SelectField
          label="The student writes"
          value={content.format ?? 'plain'}
          onChange={(event) => onChange({ ...content, format: event.target.value as 'plain' | 'rich' })}
        >
          <option value="plain">plain text</option>
          <option value="rich">text with form (bold, lists)</option>
        </SelectField>
      </div>
      {contentProblem(problems, 'words') && <p className="text-sm text-brick">{contentProblem(problems, 'words')}</p>}
      {files && (
        <fieldset className="border border-line p-3">
          <legend className="px-1 text-sm font-medium">Files handed in</legend>
          <div className="flex flex-wrap gap-x-5 gap-y-1">
            {fileKinds.map((kind) => (
              <label key={kind} className="flex items-center gap-1.5 text-sm">
                <input
                  type="checkbox"
                  className="accent-prussian"
                  checked={files.kinds.includes(kind)}
                  onChange={(event) =>
                    onChange({
                      ...content,
                      files: {
                        ...files,
                        kinds: fileKinds.filter((one) =>
                          one === kind ? event.target.checked : files.kinds.includes(one),
                        ),
                      },
                    })
                  }
                />
                {fileKindNames[kind]}
              </label>
            ))}
          </div>
          {contentProblem(problems, 'files.kinds') && (
            <p className="text-sm text-brick">{contentProblem(problems, 'files.kinds')}</p>
          )}
          <div className="mt-2 flex items-end gap-3">
            <NumberText
              label="At most … files"
              className="w-32"
              value={files.most}
              onChange={(most) => onChange({ ...content, files: { ...files, most } })}
              problem={contentProblem(problems, 'files.most')}
            />
            <NumberText
              label="of at most … MB each"
              className="w-40"
              value={files.megabytes}
              onChange={(megabytes) => onChange({ ...content, files: { ...files, megabytes } })}
              problem={contentProblem(problems, 'files.megabytes')}
            />
            <Button look="quiet" onClick={() => onChange({ ...content, files: undefined })}>
              No files
            </Button>
          </div>
        </fieldset>
      )}
      <div className="flex flex-wrap gap-2">
        {!content.rubric && (
          <Button look="quiet" onClick={() => onChange({ ...content, rubric: { criteria: [blankCriterion([])] } })}>
            <Plus size={15} aria-hidden="true" /> Add a rubric
          </Button>
        )}
        {!files && (
          <Button
            look="quiet"
            onClick={() => onChange({ ...content, files: { most: 1, kinds: ['pdf', 'picture'], megabytes: 10 } })}
          >
            <Plus size={15} aria-hidden="true" /> Let files be handed in
          </Button>
        )}
      </div>
    </div>
  );
}

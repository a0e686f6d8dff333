'use client';
import { useEffect, useRef, useState } from 'react';
import { richFromText, richText } from '@/core/base/rich';
import { freeId } from '@/core/question/choices';
import { blankGap, type Gap, type GapFillContent } from '@/core/question/types/gap-fill/content';
import { gapsIn } from '@/core/question/types/gap-fill/gapsIn';
import { gapAnswer } from '@/core/question/types/gap-fill/score';
import { Button, RemoveButton } from '../../kit/Button';
import { SelectField, TextField } from '../../kit/Field';
import { contentProblem, type EditorProps } from '../editing';
import { NumberText } from '../NumberText';
import { AcceptedNumbers } from '../numeric/AcceptedNumbers';
import { RichEditor } from '../rich/RichEditor';
import { AcceptedTexts } from '../short-text/AcceptedTexts';
import { useSample } from '../variables/useSample';
import { VariationEditor } from '../variables/VariationEditor';

type Props = EditorProps<GapFillContent>;

/** The answers of each gap in the order of the text. Gaps are made in the text itself. */
export function GapFillEditor({
  content,
  onChange,
  problems,
  openGap: open = null,
  onOpenGap: onOpen = () => undefined,
}: Props) {
  const placed = gapsIn(content.stem);
  const gaps = [...content.gaps].sort((a, b) => placed.indexOf(a.id) - placed.indexOf(b.id));
  const settled = useSample(content);
  const change = (next: Gap) =>
    onChange({ ...content, gaps: content.gaps.map((gap) => (gap.id === next.id ? next : gap)) });
  const opened = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (open) opened.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  return (
    <div className="space-y-4">
      <div>
        <h3 className="mb-1 font-sans text-sm font-medium">Gaps</h3>
        {contentProblem(problems, 'gaps') && (
          <p className="mb-1 text-sm text-brick">{contentProblem(problems, 'gaps')}</p>
        )}
        {gaps.length === 0 && (
          <p className="text-ink-2">
            Select words in the text above and press “Make a gap” or Alt+G: the words become the gap's right answer.
          </p>
        )}
        <ol className="divide-y divide-line border-y border-line">
          {gaps.map((gap, i) => {
            const at = content.gaps.indexOf(gap);
            const own = problems.some((problem) => problem.field?.startsWith(`content.gaps.${at}`));
            const isOpen = open === gap.id || own;
            return (
              <li key={gap.id} ref={open === gap.id ? opened : undefined} className="py-1">
                <button
                  type="button"
                  aria-expanded={isOpen}
                  onClick={() => onOpen(open === gap.id ? null : gap.id)}
                  className="flex min-h-9 w-full items-baseline gap-3 px-1 text-left hover:bg-prussian-wash"
                >
                  <span className="w-6 text-ink-2">{i + 1}</span>
                  <span className="flex-1 font-medium">{gapAnswer(gap) || 'no answer yet'}</span>
                  <span className="text-sm text-ink-2">
                    {gap.kind === 'pick' ? 'a pick from a list' : gap.kind === 'number' ? 'a number' : 'a text'}
                    {!placed.includes(gap.id) && ', not in the text'}
                  </span>
                </button>
                {isOpen && (
                  <GapAnswers
                    gap={gap}
                    path={`gaps.${at}.`}
                    problems={problems}
                    placed={placed.includes(gap.id)}
                    formulas={Boolean(content.variables?.length)}
                    settled={settled?.gaps.find((one) => one.id === gap.id) ?? null}
                    onChange={change}
                    onRemove={() => onChange({ ...content, gaps: content.gaps.filter((one) => one.id !== gap.id) })}
                  />
                )}
              </li>
            );
          })}
        </ol>
      </div>
      <VariationEditor content={content} onChange={onChange} problems={problems} />
    </div>
  );
}

type AnswersProps = {
  gap: Gap;
  path: string;
  problems: Props['problems'];
  placed: boolean;
  formulas: boolean;
  settled: Gap | null;
  onChange: (gap: Gap) => void;
  onRemove: () => void;
};

function GapAnswers({ gap, path, problems, placed, formulas, settled, onChange, onRemove }: AnswersProps) {
  return (
    <div className="space-y-3 py-2 pl-10">
      {contentProblem(problems, path.slice(0, -1)) && (
        <p className="text-sm text-brick">{contentProblem(problems, path.slice(0, -1))}</p>
      )}
      <div className="flex flex-wrap items-end gap-3">
        <SelectField
          label="The student"
          value={gap.kind}
          onChange={(event) =>
            onChange({ ...blankGap(gap.id, event.target.value as Gap['kind'], gapAnswer(gap)), weight: gap.weight })
          }
        >
          <option value="text">types a text</option>
          <option value="number">types a number</option>
          <option value="pick">picks from a list</option>
        </SelectField>
        <NumberText
          label="Weight"
          className="w-20"
          value={gap.weight}
          onChange={(weight) => onChange({ ...gap, weight })}
          problem={contentProblem(problems, `${path}weight`)}
        />
        {!placed && (
          <Button look="quiet" onClick={onRemove}>
            Remove these answers
          </Button>
        )}
      </div>
      {gap.kind === 'text' && (
        <AcceptedTexts value={gap} path={path} problems={problems} onChange={(key) => onChange({ ...gap, ...key })} />
      )}
      {gap.kind === 'number' && (
        <AcceptedNumbers
          value={gap}
          path={path}
          problems={problems}
          formulas={formulas}
          settled={settled?.kind === 'number' ? settled : null}
          onChange={({ accepted, units }) => onChange({ ...gap, accepted, units })}
        />
      )}
      {gap.kind === 'pick' && (
        <Options gap={gap} path={path} problems={problems} formulas={formulas} onChange={onChange} />
      )}
    </div>
  );
}

type PickGap = Extract<Gap, { kind: 'pick' }>;

function Options({
  gap,
  path,
  problems,
  formulas,
  onChange,
}: {
  gap: PickGap;
  path: string;
  problems: Props['problems'];
  formulas: boolean;
  onChange: (gap: Gap) => void;
}) {
  const [group] = useState(() => `right-option-${gap.id}`);
  const set = (options: PickGap['options']) => onChange({ ...gap, options });
  return (
    <div>
      {contentProblem(problems, `${path}options`) && (
        <p className="text-sm text-brick">{contentProblem(problems, `${path}options`)}</p>
      )}
      <ol className="space-y-1">
        {gap.options.map((option, i) => (
          <li
            key={option.id}
            className={`flex items-start gap-2 border-l-[3px] pl-2 ${option.right ? 'border-pine' : 'border-line'}`}
          >
            <input
              type="radio"
              name={group}
              aria-label={`Option ${i + 1} is right`}
              checked={option.right}
              onChange={() => set(gap.options.map((one) => ({ ...one, right: one.id === option.id })))}
              className="mt-2.5 size-4 accent-pine"
            />
            <div className="flex-1">
              {formulas ? (
                <RichEditor
                  quiet
                  low
                  label={`Option ${i + 1}`}
                  value={option.content}
                  onChange={(content) =>
                    set(gap.options.map((one) => (one.id === option.id ? { ...one, content } : one)))
                  }
                  problem={contentProblem(problems, `${path}options.${i}.content`)}
                />
              ) : (
                <TextField
                  quiet
                  label={`Option ${i + 1}`}
                  value={richText(option.content)}
                  onChange={(event) =>
                    set(
                      gap.options.map((one) =>
                        one.id === option.id ? { ...one, content: richFromText(event.target.value) } : one,
                      ),
                    )
                  }
                  problem={contentProblem(problems, `${path}options.${i}.content`)}
                />
              )}
            </div>
            <RemoveButton
              label={`Remove option ${i + 1}`}
              disabled={gap.options.length <= 2}
              onClick={() => set(gap.options.filter((one) => one.id !== option.id))}
            />
          </li>
        ))}
      </ol>
      <div className="mt-1 flex flex-wrap items-center gap-4">
        <Button
          look="quiet"
          whyNot={gap.options.length >= 20 ? 'A list takes at most 20 options.' : null}
          onClick={() =>
            set([...gap.options, { id: freeId(gap.options, 'o'), content: richFromText(''), right: false }])
          }
        >
          Add an option
        </Button>
        <SelectField
          quiet
          label="Shown as"
          value={gap.look === 'row' ? 'row' : gap.shuffle ? 'shuffled' : 'list'}
          onChange={(event) =>
            onChange({
              ...gap,
              look: event.target.value === 'row' ? 'row' : 'list',
              shuffle: event.target.value === 'shuffled',
            })
          }
        >
          <option value="shuffled">a list that opens, shuffled</option>
          <option value="list">a list that opens, in this order</option>
          <option value="row">a row of all options, in this order</option>
        </SelectField>
      </div>
    </div>
  );
}

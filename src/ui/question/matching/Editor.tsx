'use client';
import { Plus } from 'lucide-react';
import { emptyRich } from '@/core/base/rich';
import { freeId } from '@/core/question/choices';
import type { MatchingContent } from '@/core/question/types/matching/content';
import { Button, RemoveButton } from '../../kit/Button';
import { SelectField, TextField } from '../../kit/Field';
import { contentProblem, type EditorProps } from '../editing';
import { RichEditor } from '../rich/RichEditor';
import { addsText, isText } from '../textOrder';

/** Pairs side by side, options that belong to nothing below them. */
export function MatchingEditor({ content, onChange, problems }: EditorProps<MatchingContent>) {
  const { pairs, extras } = content;
  const setPairs = (next: MatchingContent['pairs']) => onChange({ ...content, pairs: next });
  const setExtras = (next: string[]) => onChange({ ...content, extras: next });
  return (
    <div className="space-y-3">
      {contentProblem(problems, 'pairs') && <p className="text-sm text-brick">{contentProblem(problems, 'pairs')}</p>}
      <div className="grid grid-cols-[1fr_1fr_auto] items-start gap-x-2 gap-y-2">
        <h3 className="font-sans text-sm font-medium">Prompt</h3>
        <h3 className="font-sans text-sm font-medium">What belongs to it</h3>
        <span />
        {pairs.map((pair, i) => (
          <div key={pair.id} className="contents">
            <RichEditor
              quiet
              low
              writes
              label={`Prompt ${i + 1}`}
              value={pair.prompt}
              onChange={(prompt) => setPairs(pairs.map((one) => (one.id === pair.id ? { ...one, prompt } : one)))}
              problem={contentProblem(problems, `pairs.${i}.prompt`)}
            />
            <TextField
              quiet
              {...isText}
              label={`What belongs to prompt ${i + 1}`}
              value={pair.answer}
              onChange={(event) =>
                setPairs(pairs.map((one) => (one.id === pair.id ? { ...one, answer: event.target.value } : one)))
              }
              problem={contentProblem(problems, `pairs.${i}.answer`)}
            />
            <RemoveButton
              label={`Remove pair ${i + 1}`}
              disabled={pairs.length <= 2}
              onClick={() => setPairs(pairs.filter((one) => one.id !== pair.id))}
            />
          </div>
        ))}
        {extras.map((extra, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the rows have no identity besides their place
          <div key={i} className="contents">
            <span className="pt-2 text-right text-sm text-ink-2">belongs to nothing:</span>
            <TextField
              quiet
              label={`Extra option ${i + 1}`}
              value={extra}
              onChange={(event) => setExtras(extras.map((one, at) => (at === i ? event.target.value : one)))}
              problem={contentProblem(problems, `extras.${i}`)}
            />
            <RemoveButton
              label={`Remove extra option ${i + 1}`}
              onClick={() => setExtras(extras.filter((_, at) => at !== i))}
            />
          </div>
        ))}
      </div>
      <div className="flex flex-wrap items-end gap-3">
        <Button
          look="quiet"
          {...addsText}
          whyNot={pairs.length >= 20 ? 'Matching takes at most 20 pairs.' : null}
          onClick={() => setPairs([...pairs, { id: freeId(pairs, 'p'), prompt: emptyRich, answer: '' }])}
        >
          <Plus size={15} aria-hidden="true" /> Another pair
        </Button>
        <Button look="quiet" onClick={() => setExtras([...extras, ''])}>
          <Plus size={15} aria-hidden="true" /> An option that belongs to nothing
        </Button>
        <SelectField
          label="Credit"
          value={content.rule}
          onChange={(event) => onChange({ ...content, rule: event.target.value as MatchingContent['rule'] })}
        >
          <option value="share">Share of pairs right</option>
          <option value="all-or-nothing">All or nothing</option>
        </SelectField>
      </div>
    </div>
  );
}

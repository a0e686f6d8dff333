'use client';
import { MessageSquareText, Pin, Plus } from 'lucide-react';
import { markedLine } from '@/core/bank/bringIn/marker';
import type { Problem } from '@/core/base/result';
import { emptyRich, isEmptyRich, richFromText } from '@/core/base/rich';
import { choiceLabel } from '@/core/question/choiceLabel';
import { type Choice, choiceLimits, freeId } from '@/core/question/choices';
import { Button } from '../kit/Button';
import { MoveButtons, rowTool } from '../kit/MoveButtons';
import { contentProblem } from './editing';
import { LabelsField } from './LabelsField';
import { RichEditor } from './rich/RichEditor';
import { addsText } from './textOrder';

type Content = { choices: Choice[]; shuffle: boolean; labels?: string };
type Props<Kind extends Content> = {
  content: Kind;
  onChange: (content: Kind) => void;
  problems: readonly Problem[];
  /** Whether several choices can be right. */
  several?: boolean;
};

/**
 * Choices one below the other: the right ones marked at the left or with Alt+M, order by arrows or Alt+arrows, feedback
 * below each where wanted.
 */
export function ChoicesEditor<Kind extends Content>({ content, onChange, problems, several }: Props<Kind>) {
  const { choices } = content;
  const set = (next: Choice[]) => onChange({ ...content, choices: next });
  const change = (id: string, part: Partial<Choice>) =>
    set(choices.map((choice) => (choice.id === id ? { ...choice, ...part } : choice)));
  const markRight = (id: string) =>
    set(
      choices.map((choice) =>
        several
          ? choice.id === id
            ? { ...choice, right: !choice.right }
            : choice
          : { ...choice, right: choice.id === id },
      ),
    );
  const move = (from: number, to: number) => {
    const next = [...choices];
    next.splice(to, 0, ...next.splice(from, 1));
    set(next);
  };
  /** Lines that were pasted into an empty choice: one for each choice from there on, with their letters and marks read. */
  const fill = (from: number, lines: string[]) => {
    const next = [...choices];
    const marked = lines.map(markedLine);
    const stars = marked.filter((one) => one.marker?.kind === 'bullet' && one.marker.form === '*').length;
    for (const [i, one] of marked.entries()) {
      const right = one.isMarked || (stars < lines.length && one.marker?.kind === 'bullet' && one.marker.form === '*');
      const text = one.marker?.kind === 'number' ? (lines[i] as string).trim() : one.rest;
      const at = from + i;
      const open = next[at];
      if (!open && next.length >= choiceLimits.most) break;
      const made = open && isEmptyRich(open.content) ? open : { id: freeId(next), right: false, pinned: false };
      next.splice(at, made === open ? 1 : 0, { ...made, content: richFromText(text), right: right || made.right });
    }
    const picked = next.filter((one) => one.right);
    // Of a single right choice the last one marked stands.
    set(
      several || picked.length < 2 ? next : next.map((one) => ({ ...one, right: one === picked[picked.length - 1] })),
    );
  };
  const add = () => set([...choices, { id: freeId(choices), content: emptyRich, right: false, pinned: false }]);
  const whole = contentProblem(problems, 'choices');
  return (
    <div>
      <div className="mb-1 flex items-end justify-between">
        <h3 className="font-sans text-sm font-medium">Choices</h3>
        <label className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="accent-prussian"
            checked={content.shuffle}
            onChange={(event) => onChange({ ...content, shuffle: event.target.checked })}
          />
          Shuffle for each paper
        </label>
      </div>
      {whole && <p className="mb-1 text-sm text-brick">{whole}</p>}
      <ol className="space-y-2">
        {choices.map((choice, i) => {
          const letter = choiceLabel(content.labels === 'none' ? undefined : content.labels, i);
          return (
            <li
              key={choice.id}
              onKeyDown={(event) => {
                if (!event.altKey) return;
                const to = { ArrowUp: i - 1, ArrowDown: i + 1 }[event.key];
                if (event.key.toLowerCase() === 'm') markRight(choice.id);
                else if (to !== undefined && choices[to]) move(i, to);
                else return;
                event.preventDefault();
              }}
              className={`grid grid-cols-[auto_1fr_auto] gap-x-2 border-l-[3px] pl-2 ${choice.right ? 'border-pine' : 'border-line'}`}
            >
              <label className="flex h-9 items-center gap-1.5 text-sm" title="Mark as right (Alt+M in the choice)">
                <input
                  type={several ? 'checkbox' : 'radio'}
                  name="right-choice"
                  checked={choice.right}
                  onChange={() => markRight(choice.id)}
                  className="size-4 accent-pine"
                  aria-label={`Choice ${letter} is right`}
                />
                <span className="w-4 text-ink-2">{letter}</span>
              </label>
              <RichEditor
                quiet
                low
                writes
                label={`Choice ${letter}`}
                value={choice.content}
                onLines={(lines) => fill(i, lines)}
                onChange={(next) => change(choice.id, { content: next })}
                problem={contentProblem(problems, `choices.${i}.content`)}
              />
              <div className="flex h-9 items-center">
                <MoveButtons
                  name={`choice ${letter}`}
                  onUp={i === 0 ? null : () => move(i, i - 1)}
                  onDown={i === choices.length - 1 ? null : () => move(i, i + 1)}
                  onRemove={
                    choices.length <= choiceLimits.fewest
                      ? null
                      : () => set(choices.filter((one) => one.id !== choice.id))
                  }
                >
                  <button
                    type="button"
                    className={rowTool}
                    disabled={choice.feedback !== undefined}
                    onClick={() => change(choice.id, { feedback: emptyRich })}
                    aria-label={`Add feedback for ${letter}`}
                    title="Add feedback for whoever picks it"
                  >
                    <MessageSquareText size={15} aria-hidden="true" />
                  </button>
                  <button
                    type="button"
                    className={`${rowTool} ${choice.pinned ? 'bg-prussian-wash text-prussian' : ''}`}
                    aria-pressed={choice.pinned}
                    onClick={() => change(choice.id, { pinned: !choice.pinned })}
                    aria-label={`Keep choice ${letter} in its place`}
                    title="Keep in its place when shuffled"
                  >
                    <Pin size={15} />
                  </button>
                </MoveButtons>
              </div>
              {choice.feedback !== undefined && (
                <div className="col-start-2 mt-1">
                  <RichEditor
                    low
                    label={`Feedback for ${letter}`}
                    value={choice.feedback}
                    onChange={(feedback) => change(choice.id, { feedback })}
                  />
                </div>
              )}
            </li>
          );
        })}
      </ol>
      <div className="mt-2 flex flex-wrap items-end justify-between gap-2">
        <Button
          look="quiet"
          {...addsText}
          onClick={add}
          whyNot={choices.length >= choiceLimits.most ? 'A choice question takes at most 20 choices.' : null}
        >
          <Plus size={15} aria-hidden="true" /> Add a choice
        </Button>
        <span className="mr-auto self-end pb-2 text-sm text-ink-2">Tab: next choice · Alt+M: right · Alt+↑↓: move</span>
        <LabelsField
          label="Labels of the choices"
          usual="As the exam says"
          labels={content.labels}
          onChange={(labels) => onChange({ ...content, labels })}
        />
      </div>
    </div>
  );
}

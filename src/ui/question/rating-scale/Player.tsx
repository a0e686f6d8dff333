import type { RatingScaleResponse, RatingScaleView } from '@/core/question/types/rating-scale/student';
import { TextButton } from '../../kit/TextButton';
import type { PlayerProps } from '../playing';

/** The steps of a scale in a row between its two ends. */
export function RatingScalePlayer({
  view,
  response,
  onRespond,
  name,
  disabled,
}: PlayerProps<RatingScaleView, RatingScaleResponse>) {
  const step = (value: number, label: string) => (
    <label
      key={value}
      className={`flex min-h-11 min-w-9 flex-1 flex-col items-center justify-center border-r border-line px-1 text-base last:border-r-0 has-focus-visible:outline-2 has-focus-visible:outline-prussian ${response?.step === value ? 'bg-prussian text-white' : 'hover:bg-prussian-wash'}`}
    >
      <input
        type="radio"
        name={name}
        className="sr-only"
        checked={response?.step === value}
        onChange={() => onRespond({ step: value })}
      />
      {label}
    </label>
  );
  return (
    <fieldset disabled={disabled} className="max-w-xl">
      <legend className="sr-only">
        From 1, {view.low || 'low'}, to {view.steps}, {view.high || 'high'}
      </legend>
      <div className="flex border border-edge">
        {Array.from({ length: view.steps }, (_, i) => step(i + 1, String(i + 1)))}
      </div>
      <div className="mt-1 flex justify-between gap-4 text-base text-ink-2">
        <span>{view.low}</span>
        <span className="text-right">{view.high}</span>
      </div>
      <div className="mt-2 flex items-center gap-4">
        {view.cannotSay && (
          <label className="flex items-center gap-2 text-base">
            <input
              type="radio"
              name={name}
              checked={response?.step === 0}
              onChange={() => onRespond({ step: 0 })}
              className="size-4 accent-prussian"
            />
            I cannot say
          </label>
        )}
        <TextButton onClick={() => onRespond(undefined)} className={`text-sm ${response ? '' : 'invisible'}`}>
          Clear my answer
        </TextButton>
      </div>
    </fieldset>
  );
}

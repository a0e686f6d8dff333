import { richText } from '@/core/base/rich';
import { gapsIn } from '@/core/question/types/gap-fill/gapsIn';
import type { GapFillResponse, GapFillView, GapView } from '@/core/question/types/gap-fill/student';
import { RichText } from '../../kit/RichText';
import { echo } from '../numeric/Player';
import type { PlayerProps } from '../playing';

/** The running text with a field in the place of each gap. */
export function GapFillPlayer({
  view,
  response,
  onRespond,
  name,
  disabled,
}: PlayerProps<GapFillView, GapFillResponse>) {
  const given = response?.gaps ?? {};
  const order = gapsIn(view.stem);
  const set = (id: string, text: string) => {
    const next = { ...given, [id]: text };
    if (text === '') delete next[id];
    onRespond(Object.keys(next).length ? { gaps: next } : undefined);
  };
  return (
    <RichText
      rich={view.stem}
      className="text-xl leading-[2.1]"
      gap={(id) => {
        const gap = view.gaps.find((one) => one.id === id);
        return gap ? (
          <GapField
            gap={gap}
            // By its place in the text, which is how it is heard; gaps may have been made in another order.
            label={`Gap ${order.indexOf(id) + 1}`}
            name={`${name}-${id}`}
            value={given[id] ?? ''}
            disabled={disabled}
            onChange={(text) => set(id, text)}
          />
        ) : null;
      }}
    />
  );
}

const shape = 'mx-1 rounded-sm border border-edge bg-sheet px-1.5 align-baseline font-sans text-lg leading-normal';

type FieldProps = {
  gap: GapView;
  label: string;
  name: string;
  value: string;
  disabled?: boolean;
  onChange: (text: string) => void;
};

function GapField({ gap, label, name, value, disabled, onChange }: FieldProps) {
  if (gap.kind === 'pick' && gap.look === 'row')
    return (
      <span
        role="radiogroup"
        aria-label={label}
        className="mx-1 inline-flex flex-wrap border border-edge align-baseline font-sans text-lg leading-normal"
      >
        {gap.options.map((option) => (
          <label
            key={option.key}
            className={`flex items-center border-r border-line px-2 last:border-r-0 has-focus-visible:outline-2 has-focus-visible:outline-prussian ${value === option.key ? 'bg-prussian text-white' : 'bg-sheet hover:bg-prussian-wash'}`}
          >
            <input
              type="radio"
              name={name}
              className="sr-only"
              checked={value === option.key}
              disabled={disabled}
              onChange={() => onChange(option.key)}
            />
            {richText(option.content)}
          </label>
        ))}
      </span>
    );
  if (gap.kind === 'pick')
    return (
      <select
        aria-label={label}
        value={value}
        disabled={disabled}
        onChange={(event) => onChange(event.target.value)}
        className={`${shape} min-h-9 max-w-full`}
      >
        <option value="">choose …</option>
        {gap.options.map((option) => (
          <option key={option.key} value={option.key}>
            {richText(option.content)}
          </option>
        ))}
      </select>
    );
  const heard = gap.kind === 'number' && value !== '' ? echo(value, true) : {};
  return (
    <span className="inline-block align-baseline">
      <input
        aria-label={gap.kind === 'number' ? `${label}, a number` : label}
        aria-invalid={heard.problem ? true : undefined}
        value={value}
        disabled={disabled}
        autoComplete="off"
        spellCheck={false}
        maxLength={500}
        size={Math.min(30, Math.max(gap.kind === 'number' ? 8 : 14, value.length + 2))}
        onChange={(event) => onChange(event.target.value)}
        className={`${shape} min-h-9 max-w-full`}
      />
      {(heard.hint || heard.problem) && (
        <span className={`font-sans text-sm ${heard.problem ? 'text-brick' : 'text-ink-2'}`}>
          {heard.hint ?? heard.problem}
        </span>
      )}
    </span>
  );
}

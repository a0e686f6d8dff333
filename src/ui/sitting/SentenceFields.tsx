import { inputShape } from '../kit/Field';
import { Tick } from '../kit/Tick';

/** A field inside a sentence. */
export function Inline({
  label,
  value,
  onChange,
  problem,
  type = 'text',
  wide,
  narrow,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  problem: string | null;
  type?: string;
  wide?: boolean;
  narrow?: boolean;
}) {
  return (
    <span className="inline-block align-baseline leading-normal">
      <input
        type={type}
        aria-label={label}
        aria-invalid={problem ? true : undefined}
        inputMode={narrow ? 'numeric' : undefined}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className={`${inputShape} ${wide ? '!w-80 max-w-full' : narrow ? '!w-16 text-right' : '!w-auto'}`}
      />
      {problem && <span className="block text-sm text-brick">{problem}</span>}
    </span>
  );
}

/** Choices of which several can be ticked. */
export function Ticks({
  options,
  isOn,
  onSet,
}: {
  options: { id: string; name: string }[];
  isOn: (id: string) => boolean;
  onSet: (id: string, on: boolean) => void;
}) {
  return (
    <div className="flex flex-wrap gap-x-5">
      {options.map((option) => (
        <Tick key={option.id} on={isOn(option.id)} onChange={(on) => onSet(option.id, on)}>
          {option.name}
        </Tick>
      ))}
    </div>
  );
}

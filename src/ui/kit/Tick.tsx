import type { ReactNode } from 'react';

type Props = {
  on: boolean;
  onChange: (on: boolean) => void;
  /** One of several that exclude each other. */
  radio?: boolean;
  /** What the ones that exclude each other share, so that arrow keys walk among them. */
  name?: string;
  disabled?: boolean;
  className?: string;
  children: ReactNode;
};

/** A line of a list that can be ticked; all of it can be pressed. */
export const Tick = ({ on, onChange, radio, name, disabled, className = 'min-h-8 px-1 py-1', children }: Props) => (
  <label
    className={`flex items-start gap-2 has-disabled:text-ink-2 ${disabled ? '' : 'hover:bg-prussian-wash'} ${className}`}
  >
    <input
      type={radio ? 'radio' : 'checkbox'}
      name={name}
      className="mt-0.5 size-4 shrink-0 accent-prussian"
      checked={on}
      disabled={disabled}
      onChange={(event) => onChange(event.target.checked)}
    />
    <span>{children}</span>
  </label>
);

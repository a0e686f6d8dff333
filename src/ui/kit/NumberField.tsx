import type { ComponentProps } from 'react';
import { TextField } from './Field';

type Props = Omit<ComponentProps<typeof TextField>, 'inputMode' | 'type'> & {
  /** Whether only whole numbers make sense. */
  whole?: boolean;
};

/** A field for a number. It keeps what is typed, with a point or a comma, also while it is none yet: {@link numberIn} reads it. */
export const NumberField = ({ whole = false, ...props }: Props) => (
  <TextField {...props} inputMode={whole ? 'numeric' : 'decimal'} autoComplete="off" />
);

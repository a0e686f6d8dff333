import type { ComponentProps } from 'react';
import { textLook } from './textLook';

/** Something to press that stands in a text. */
export const TextButton = ({ className, ...props }: ComponentProps<'button'>) => (
  <button type="button" {...props} className={textLook(className)} />
);

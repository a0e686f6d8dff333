import type { ComponentProps } from 'react';
import { textLook } from './textLook';

/** A way to what is no page of the app: a file, another address. */
export const FileLink = ({ className, children, ...props }: ComponentProps<'a'>) => (
  <a {...props} className={textLook(className)}>
    {children}
  </a>
);

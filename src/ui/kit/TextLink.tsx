import Link from 'next/link';
import type { ComponentProps } from 'react';
import { textLook } from './textLook';

/** A way to another page that stands in a text. */
export const TextLink = ({ className, ...props }: ComponentProps<typeof Link>) => (
  <Link {...props} className={textLook(className)} />
);

/** A way to what is no page of the app: a file, another address. */
export const FileLink = ({ className, children, ...props }: ComponentProps<'a'>) => (
  <a {...props} className={textLook(className)}>
    {children}
  </a>
);

import Link from 'next/link';
import type { ComponentProps } from 'react';
import { textLook } from './textLook';

/** A way to another page that stands in a text. */
export const TextLink = ({ className, ...props }: ComponentProps<typeof Link>) => (
  <Link {...props} className={textLook(className)} />
);

import type { ComponentProps } from 'react';
import { Link } from './Link';
import { textLook } from './textLook';

/** A way to another page that stands in a text. */
export const TextLink = ({ className, ...props }: ComponentProps<typeof Link>) => (
  <Link {...props} className={textLook(className)} />
);

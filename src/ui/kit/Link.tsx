import NextLink from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link to a place of the app. Nothing is asked for ahead of it: pages belong to one person and one moment, so only
 * their titles could be, at several times the work of the page that has the links; docs/decisions/0028 has the figures.
 */
export function Link(props: Omit<ComponentProps<typeof NextLink>, 'prefetch'>) {
  return <NextLink {...props} prefetch={false} />;
}

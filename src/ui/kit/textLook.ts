const look = 'text-prussian underline';

/** How a link, or what acts like one, looks within a text. */
export const textLook = (className?: string): string => (className ? `${look} ${className}` : look);

/** The look of the small buttons at the ends of lines and parts. */
export const tool = 'p-1.5 text-ink-2 hover:bg-prussian-wash hover:text-prussian disabled:opacity-30';

/** How wide a page is: a column to read, a sheet to fill in, or all there is, for lists, grids and what stands side by side. */
export const pageWidths = { reading: 'max-w-[760px]', sheet: 'max-w-[1000px]', full: 'max-w-[1320px]' } as const;

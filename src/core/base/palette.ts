/**
 * The colours of the house for what cannot read a style sheet: charts, printed pages, mathematics. Screens take the same
 * from `app/globals.css`; a test holds the two together.
 */
export const palette = {
  white: '#ffffff',
  paper: '#f6f3ec',
  ink: '#1c2330',
  ink2: '#566070',
  line: '#dcd5c7',
  edge: '#857c6b',
  prussian: '#1b3f60',
  prussianWash: '#e6edf3',
  plum: '#6a3c74',
} as const;

const look =
  'h-2 w-64 appearance-none border border-edge bg-paper [&::-moz-progress-bar]:bg-prussian [&::-webkit-progress-bar]:bg-paper [&::-webkit-progress-value]:bg-prussian';

/** How far a long job is, as a bar: of how many, how many are done. */
export const Progress = ({ label, max, value }: { label: string; max: number; value: number }) => (
  <progress className={look} aria-label={label} max={max} value={value} />
);

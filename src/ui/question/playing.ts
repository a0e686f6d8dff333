import type { ReactNode } from 'react';

/** What the player of a type takes. Players of files use `files`, which the page around them provides. */
export type PlayerProps<View, Response> = {
  view: View;
  response: Response | undefined;
  onRespond: (response: Response | undefined) => void;
  /** Tells this question's controls from those of others on the page. */
  name: string;
  disabled?: boolean;
  files?: FileHandling;
};

/** How a file gets to the server and back, where the page can do it. */
export type FileHandling = {
  send: (file: File) => Promise<{ ok: true; id: string } | { ok: false; message: string }>;
  link: (id: string, name: string) => ReactNode;
};

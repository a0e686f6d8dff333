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

/** What shows a question of a type as a student saw it, with what they answered: read, not answered. */
export type ShownProps<View, Response> = {
  view: View;
  /** Undefined where nothing was answered, or only the question is shown. */
  response?: Response | undefined;
  /** The way to a file that was handed in; without it only its name is shown. */
  fileLink?: ((id: string, name: string) => ReactNode) | undefined;
};

'use client';
import { createContext, useContext } from 'react';
import type { MediaKind } from '@/core/base/rich';
import type { Variable } from '@/core/question/variables/variation';

/** What a stored picture, sound or video is known by. */
export type StoredMedia = { hash: string; kind: MediaKind; width: number | null; height: number | null };

/** What the fields of a question sheet share: its variables, its gaps, and a way to bring in a file. */
export type Authoring = {
  variables: readonly Variable[];
  /** What a gap's chip says: its right answer. */
  gapText: (id: string) => string;
  /** The gap whose answers are open, and how to open another. */
  openGap: (id: string) => void;
  store: ((file: File) => Promise<{ ok: true; media: StoredMedia } | { ok: false; message: string }>) | null;
};

const AuthoringContext = createContext<Authoring>({
  variables: [],
  gapText: () => '',
  openGap: () => undefined,
  store: null,
});

export const AuthoringProvider = AuthoringContext.Provider;
export const useAuthoring = () => useContext(AuthoringContext);

import type { SeenSheet } from './frames';
import type { FoundOnPage } from './pageParcel';
import type { SheetPlan } from './sheetRow';

type Layouts = { id: string; plan: SheetPlan }[];

/**
 * What a page asks of the worker that reads sheets: files to be read by these layouts, then each time the next page; or
 * pictures of a camera, one at a time.
 */
export type SheetsWish = { files: File[]; layouts: Layouts } | 'next' | { camera: Layouts } | { frame: ImageBitmap };

/** A sheet on a picture of a camera, packed for the server where it could be read, and whether it is one of the sitting. */
export type SheetOnFrame = SeenSheet & { parcel: Uint8Array | null; isOurs: boolean };

/** What the worker says: how many pages a file has, each page packed for the server, and when all are read. */
export type SheetsMessage =
  | { kind: 'pages'; file: number; pages: number }
  | { kind: 'page'; parcel: Uint8Array; source: string; problem: FoundOnPage['problem'] }
  | { kind: 'done' }
  | { kind: 'frame'; sheets: SheetOnFrame[] };

import type { FoundOnPage } from './pageParcel';
import type { SheetPlan } from './sheetRow';

/** What a page asks of the worker that reads sheets: files to be read by these layouts; then each time the next page. */
export type SheetsWish = { files: File[]; layouts: { id: string; plan: SheetPlan }[] } | 'next';

/** What the worker says: how many pages a file has, each page packed for the server, and when all are read. */
export type SheetsMessage =
  | { kind: 'pages'; file: number; pages: number }
  | { kind: 'page'; parcel: Uint8Array; source: string; problem: FoundOnPage['problem'] }
  | { kind: 'done' };

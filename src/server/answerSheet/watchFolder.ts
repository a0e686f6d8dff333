import { existsSync, mkdirSync, readdirSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { readSheetCode } from '@/core/answerSheet/sheetCode';
import type { SheetPlan } from '@/core/answerSheet/sheetRow';
import type { Db } from '@/db/client';
import { sheetLayout, sitting, user } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { logFailure } from '../house/log';
import type { SheetOnPage } from '../outside/readings';
import { readOutside } from '../outside/readOutside';
import { bringSheetPage } from './bringPages';

/** The folder that is watched for scanned sheets; null where none is named, or it is not there. */
export const watchedFolder = (): string | null => {
  const named = process.env.WUZZEN_SHEETS_FOLDER;
  return named && existsSync(named) ? named : null;
};

/** The largest file that is taken from the folder, in bytes. */
const largest = 1_000_000_000;
/** Where a file goes once it was read, and where one goes that cannot be, with the reason beside it. */
const done = 'read';
const notDone = 'not-read';

type Seen = { size: number; modified: number };

/** The sitting that sheets of a file belong to, as whoever printed them. */
type Home = { sittingId: string; courseId: string; context: Context; layouts: { id: string; plan: SheetPlan }[] };

/**
 * A folder into which a copier puts what it scans: what is put there is read as if it had been chosen in the browser of
 * whoever printed the sheets, and waits to be looked through in the sitting that they belong to. What was read goes into
 * `read`, what cannot be into `not-read` with the reason in a text beside it; nothing is deleted.
 */
export class WatchedFolder {
  private seen = new Map<string, Seen>();
  private looking = false;

  constructor(
    private db: Db,
    private folder: string,
    private now: () => number,
  ) {}

  /**
   * Looks into the folder once. A file is taken when it has not changed since the look before: until then a copier may
   * still be writing it.
   *
   * @returns how many files were read
   */
  async look(): Promise<number> {
    if (this.looking) return 0;
    this.looking = true;
    try {
      let read = 0;
      for (const name of this.settled()) if (await this.take(name)) read += 1;
      return read;
    } finally {
      this.looking = false;
    }
  }

  /** Files that have lain still since the look before. */
  private settled(): string[] {
    const now = new Map<string, Seen>();
    const still: string[] = [];
    for (const entry of readdirSync(this.folder, { withFileTypes: true })) {
      if (!entry.isFile() || entry.name.startsWith('.')) continue;
      const { size, mtimeMs } = statSync(join(this.folder, entry.name));
      const before = this.seen.get(entry.name);
      if (before?.size === size && before.modified === mtimeMs) still.push(entry.name);
      now.set(entry.name, { size, modified: mtimeMs });
    }
    this.seen = now;
    return still.sort();
  }

  private async take(name: string): Promise<boolean> {
    let why: string | null;
    try {
      why = await this.read(name);
    } catch (failure) {
      logFailure(failure, undefined, `The file ${name} of the watched folder could not be read.`);
      why = 'It could not be read. Put it in once more, or read it in the browser.';
    }
    this.putAway(name, why);
    return why === null;
  }

  /** @returns why it cannot be read; null where it was */
  private async read(name: string): Promise<string | null> {
    const path = join(this.folder, name);
    if (statSync(path).size > largest) return 'It is larger than 1 GB: divide it.';
    const type = await readOutside('mediaType', path);
    const isPdf = type.ok && type.value === 'application/pdf';
    if (!type.ok || (!isPdf && !type.value?.startsWith('image/'))) return 'It is neither a PDF nor a picture.';
    const pages = isPdf ? await readOutside('pages', path) : null;
    if (pages && (!pages.ok || pages.value === null)) return 'It is damaged, or needs a password.';
    const count = pages?.ok ? (pages.value ?? 1) : 1;
    let home: Home | null = null;
    /** Pages before the first sheet that says where they belong. */
    const early: { source: string; sheet: SheetOnPage }[] = [];
    for (let n = 1; n <= count; n++) {
      const source = isPdf ? `${name}, page ${n}` : name;
      const onPage = async (layouts: Home['layouts']): Promise<SheetOnPage[]> => {
        const found = await readOutside('sheetsOnPage', path, isPdf ? n : 0, layouts);
        return found.ok
          ? found.value
          : [{ found: { problem: 'unreadable', code: null, darkness: null }, picture: new Uint8Array() }];
      };
      let sheets = await onPage(home?.layouts ?? []);
      const stranger = sheets.find((one) => one.found.code !== null && one.found.darkness === null);
      const other: Home | null = stranger ? this.homeOf(stranger.found.code ?? '') : null;
      // A sheet of a sitting that was not known yet: its page is read once more, by how it was printed.
      if (other && other.sittingId !== home?.sittingId) {
        home = other;
        sheets = await onPage(home.layouts);
      }
      for (const sheet of sheets) {
        if (!home) early.push({ source, sheet });
        else {
          for (const one of [...early.splice(0), { source, sheet }]) {
            const why = await this.bring(home, one.source, one.sheet);
            if (why) return why;
          }
        }
      }
    }
    return home ? null : 'No answer sheet that was printed here was found in it.';
  }

  /** The sitting that a code belongs to; null where it is none of this installation. */
  private homeOf(code: string): Home | null {
    const layout = readSheetCode(code)?.layout;
    const row =
      layout === undefined
        ? undefined
        : this.db
            .select({
              sittingId: sitting.id,
              courseId: sitting.courseId,
              userId: sheetLayout.createdBy,
              name: user.name,
            })
            .from(sheetLayout)
            .innerJoin(sitting, eq(sitting.id, sheetLayout.sittingId))
            .innerJoin(user, eq(user.id, sheetLayout.createdBy))
            .where(eq(sheetLayout.id, layout))
            .get();
    if (!row) return null;
    const { sittingId, courseId, userId, name } = row;
    return {
      sittingId,
      courseId,
      context: { db: this.db, actor: { userId, name }, now: this.now() },
      layouts: this.db
        .select({ id: sheetLayout.id, plan: sheetLayout.plan })
        .from(sheetLayout)
        .where(eq(sheetLayout.sittingId, sittingId))
        .all(),
    };
  }

  /** @returns why it was refused; null where it was taken */
  private async bring(
    { context, courseId, sittingId }: Home,
    source: string,
    sheet: SheetOnPage,
  ): Promise<string | null> {
    const brought = await bringSheetPage(context, courseId, sittingId, { ...sheet.found, source }, sheet.picture);
    return brought.ok ? null : brought.problems.map((problem) => problem.message).join(' ');
  }

  private putAway(name: string, why: string | null): void {
    const to = join(this.folder, why === null ? done : notDone);
    mkdirSync(to, { recursive: true });
    const free = existsSync(join(to, name)) ? `${newId()} ${name}` : name;
    renameSync(join(this.folder, name), join(to, free));
    if (why !== null) writeFileSync(join(to, `${free}.txt`), `${why}\n`);
  }
}

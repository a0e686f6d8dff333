import { chmodSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (why) {
    return (why as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** From now on what this process writes is its owner's alone. */
export const keepToOneself = (): void => void process.umask(0o077);

/**
 * Takes the data folder for this process. Two servers over one folder would each believe their own caches.
 *
 * @throws when another living process holds it
 * @returns gives it back
 */
export function lockDataFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  // Everything a school keeps lies in it: nobody else of the machine opens it, copies and files included.
  chmodSync(folder, 0o700);
  const file = join(folder, 'server.pid');
  const take = () => writeFileSync(file, String(process.pid), { flag: 'wx' });
  try {
    take();
  } catch {
    const holder = Number(readFileSync(file, 'utf8'));
    if (holder !== process.pid && Number.isInteger(holder) && holder > 0 && isAlive(holder))
      throw new Error(`The data folder ${folder} is in use by process ${holder}. Stop that server first.`);
    rmSync(file, { force: true });
    take();
  }
  return () => rmSync(file, { force: true });
}

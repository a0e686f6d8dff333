import type { TakingPort } from './takingPort';

const placeKey = (port: TakingPort): string => `wuzzen-place/${port.key}`;

/** The number of the question at which this browser left a paper; null where it knows of none. */
export function keptPlace(port: TakingPort): number | null {
  if (!port.keeps) return null;
  try {
    const kept = Number(localStorage.getItem(placeKey(port)));
    return Number.isSafeInteger(kept) && kept > 0 ? kept : null;
  } catch {
    return null;
  }
}

/** Keeps in this browser at which question its student is. */
export function keepPlace(port: TakingPort, number: number): void {
  if (!port.keeps) return;
  try {
    localStorage.setItem(placeKey(port), String(number));
  } catch {
    // A full or forbidden store: the paper begins where the last answer was given.
  }
}

/** The attempt has ended: nobody comes back to a place in it. */
export function forgetPlace(port: TakingPort): void {
  try {
    localStorage.removeItem(placeKey(port));
  } catch {
    // It was not kept either.
  }
}

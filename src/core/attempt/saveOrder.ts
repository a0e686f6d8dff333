/**
 * Where a save stands among the saves of its slot. A browser that opens the taking page takes the next writer epoch of
 * the attempt and counts its own saves; order is lexicographic.
 */
export type SaveStamp = { epoch: number; sequence: number };

type SaveOrder = 'newer' | 'repeat' | 'older' | 'superseded';

/**
 * How an arriving save relates to what is stored.
 *
 * - `superseded`: another browser has opened the attempt since; what came is kept aside
 * - `repeat`: this very save was stored before (a retry): answered as saved, nothing changes
 * - `older`: a later save of the same browser overtook it: answered as saved, nothing changes
 * - `newer`: it is to be stored
 *
 * @param current the writer epoch of the attempt
 * @param stored the stamp of the slot's stored response, null when it has none
 */
export function saveOrder(incoming: SaveStamp, current: number, stored: SaveStamp | null): SaveOrder {
  if (incoming.epoch !== current) return 'superseded';
  if (!stored || stored.epoch < incoming.epoch) return 'newer';
  if (stored.epoch > incoming.epoch) return 'superseded';
  if (stored.sequence === incoming.sequence) return 'repeat';
  return stored.sequence < incoming.sequence ? 'newer' : 'older';
}

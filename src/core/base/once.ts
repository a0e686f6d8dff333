/**
 * What a page sends behind everything else, where the server is to carry something out once however often it arrives: a
 * name that no other request has.
 */
export type Once = { carryOutOnce: string };

/** Names a request. @param name 16 to 40 letters, digits, `-` and `_` */
export const onceAs = (name: string): Once => ({ carryOutOnce: name });

/** The name of a request, where something sent is one; null where it is anything else. */
export function onceNameOf(sent: unknown): string | null {
  if (typeof sent !== 'object' || sent === null || Object.keys(sent).length !== 1) return null;
  const { carryOutOnce: name } = sent as Partial<Once>;
  return typeof name === 'string' && /^[\w-]{16,40}$/.test(name) ? name : null;
}

const systems = [
  ['iPad', 'iPad'],
  ['iPhone', 'iPhone'],
  ['Android', 'Android'],
  ['Windows', 'Windows'],
  ['CrOS', 'ChromeOS'],
  ['Mac OS X', 'Mac'],
  ['Linux', 'Linux'],
] as const;

/** More telling names first: most browsers name others too. */
const browsers = [
  ['Edg', 'Edge'],
  ['OPR/', 'Opera'],
  ['Firefox/', 'Firefox'],
  ['Chrome/', 'Chrome'],
  ['Safari/', 'Safari'],
] as const;

/**
 * A browser and its machine in words, as far as the browser names them.
 *
 * @param userAgent what it says of itself (RFC 9110, section 10.1.5)
 * @example deviceSaid('Mozilla/5.0 (Windows NT 10.0) Gecko/20100101 Firefox/120.0') // 'Firefox on Windows'
 */
export function deviceSaid(userAgent: string): string {
  const find = (names: readonly (readonly [string, string])[]) => names.find(([sign]) => userAgent.includes(sign))?.[1];
  const [browser, system] = [find(browsers), find(systems)];
  if (!browser && !system) return 'A browser';
  return system ? `${browser ?? 'A browser'} on ${system}` : (browser ?? '');
}

// Which drive belongs in which bay, by what was written down. The service decides it; a tablet without a network
// decides it too, and one file of cases holds both to the same answers.

/** What is written for a bay without a drive. */
export const empty = 'empty'

/** Letter case and blanks around make no other serial. */
const isSame = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()

/** The bay that the drive was written down of; undefined where it came from nowhere here. */
export const ownBay = (was: Record<string, string>, serial: string): string | undefined =>
  Object.keys(was).find((bay) => !isSame(was[bay]!, empty) && isSame(was[bay]!, serial))

/** Whether what is said to sit in a bay is what was written down of it. */
export const isOwn = (was: Record<string, string>, bay: string, told: string): boolean =>
  was[bay] !== undefined && isSame(was[bay], told)

/** A scanned serial goes into the bay that it came from, or into the first that is free. */
export function placed(
  serial: string,
  records: string[],
  bays: Record<string, string>,
  was: Record<string, string>,
): Record<string, string> {
  const own = ownBay(was, serial)
  const bay = own !== undefined && records.includes(own) ? own : records.find((b) => !bays[b]?.trim())
  return bay ? { ...bays, [bay]: serial } : bays
}

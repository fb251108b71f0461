import type { BatchStage, Stage, Verdict } from './api/client'

const units: [string, number][] = [
  ['TB', 2 ** 40],
  ['GB', 2 ** 30],
  ['MB', 2 ** 20],
  ['KB', 2 ** 10],
]

/** Memory the trade's way: 16 GB is 16 × 2^30 bytes. */
export function size(bytes: number | null | undefined): string {
  if (bytes === null || bytes === undefined) return 'unknown'
  const [unit, scale] = units.find(([, scale]) => bytes >= scale) ?? ['GB', 2 ** 30]
  return `${Math.round((bytes / scale) * 10) / 10} ${unit}`
}

/** A drive the trade's way, with its binary size beside it: 1 TB · 931 GiB. */
export function driveSize(bytes: number, binary = false): string {
  const [unit, scale, digits] = bytes >= 1e12 ? (['TB', 1e12, 100] as const) : (['GB', 1e9, 1] as const)
  const sold = `${Math.round((bytes / scale) * digits) / digits} ${unit}`
  return binary ? `${sold} · ${Math.floor(bytes / 2 ** 30)} GiB` : sold
}

/** A file’s size, or what is free for files: 1 MB is 10^6 bytes. */
export function stored(bytes: number): string {
  const [unit, scale] = bytes >= 1e9 ? (['GB', 1e9] as const) : (['MB', 1e6] as const)
  return `${(bytes / scale).toFixed(1)} ${unit}`
}

/** “1 entry”, “2 entries”. */
export const counted = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`

// As many decimals as the currency has (ISO 4217).
export const decimals = (currency: string) =>
  currency
    ? (new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ??
      2)
    : 2

export const money = (amount: number, currency = '') =>
  `${amount.toFixed(decimals(currency)).replace('-', '−')}${currency ? ` ${currency}` : ''}`

export const stages: Stage[] = [
  'taken-in',
  'measured',
  'planned',
  'agreed',
  'on-bench',
  'checking',
  'watching',
  'ready',
  'parked',
]

/** A word of the API as people say it: “handed back”. */
export const spoken = (word: string) => word.replaceAll('-', ' ')

/** “4 agreed, 3 on bench”. */
export const stagesSaid = (stages: BatchStage[]) =>
  stages.map((s) => `${s.count} ${spoken(s.stage)}`).join(', ')

const verdicts: Record<Verdict, [string, string]> = {
  'as-planned': ['✓', 'as planned'],
  'with-remarks': ['!', 'with remarks'],
  short: ['✕', 'short'],
  'not-seen': ['✕', 'not seen'],
  unknown: ['?', 'unknown'],
}

export const verdictWord = (verdict: Verdict) => verdicts[verdict].join(' ')

/** “10 s”, “15 min”, “9 h”, of a time as the API writes it: 00:15:00. */
export function duration(text: string): string {
  const [h = 0, m = 0, s = 0] = text.split(':').map(Number)
  return h && !m ? `${h} h` : m || h ? `${h * 60 + m} min` : `${s} s`
}

/** “50 min”, “3 h 20 min”, “2 d 4 h”. */
export const minutesSaid = (minutes: number) =>
  minutes < 60
    ? `${minutes} min`
    : minutes < 24 * 60
      ? `${Math.floor(minutes / 60)} h ${minutes % 60} min`
      : `${Math.floor(minutes / 1440)} d ${Math.floor(minutes / 60) % 24} h`

/** Relative under a day, either way, else the date in the bench's zone. */
export function ago(at: string, zone?: string, now = Date.now()): string {
  const minutes = Math.floor((now - Date.parse(at)) / 60_000)
  if (minutes < -1 && minutes >= -24 * 60)
    return minutes > -60 ? `in ${-minutes} min` : `in ${Math.round(-minutes / 60)} h`
  if (minutes < -1)
    return new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short', timeZone: zone })
  if (minutes < 1) return 'now'
  if (minutes < 60) return `${minutes} min ago`
  if (minutes < 24 * 60) return `${Math.floor(minutes / 60)} h ago`
  return new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short', timeZone: zone })
}

/** Day and minute, the same in every browser: 2026-12-04 08:30. */
/** “1 Dec 2026”. */
export const exactDay = (at: string) =>
  new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short', year: 'numeric' })

export const exact = (at: string, zone?: string) =>
  new Date(at).toLocaleString('sv', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' })

/** A day and a time as short as a card wants it: “14:20”, “Sat 14:20”, “4 Dec, 14:20”. */
export function dayTime(at: string, zone?: string, now = Date.now()): string {
  const text = moment(at, zone, now)
  if (text.length < 6) return text
  const near = Math.abs(Date.parse(at) - now) < 6 * 24 * 3600 * 1000
  const day = new Date(at).toLocaleDateString(
    undefined,
    near ? { weekday: 'short', timeZone: zone } : { day: 'numeric', month: 'short', timeZone: zone },
  )
  return `${day}${near ? '' : ','} ${text.slice(11)}`
}

/** A time of day, with its day where that is not today: 14:20. */
export function moment(at: string, zone?: string, now = Date.now()): string {
  const text = exact(at, zone)
  return text.startsWith(exact(new Date(now).toISOString(), zone).slice(0, 10)) ? text.slice(11) : text
}

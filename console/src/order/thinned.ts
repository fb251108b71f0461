/**
 * No more rows than are asked for, drawn over the same time. Of neighbours, each figure keeps its lowest and its
 * highest in the order in which they came, so that no peak and no dip is lost; a gap stays one only where all of them
 * have none.
 */
export function thinned<F extends string>(
  rows: ({ at: number } & Record<F, number | null>)[],
  figures: readonly F[],
  most: number,
): ({ at: number } & Record<F, number | null>)[] {
  if (rows.length <= most) return rows
  const each = Math.ceil((2 * rows.length) / most)
  const kept: typeof rows = []
  for (let i = 0; i < rows.length; i += each) {
    const these = rows.slice(i, i + each)
    const [first, last] = [{ ...these[0]! }, { ...these.at(-1)! }]
    for (const figure of figures) {
      const [low, high] = extremes(these.map((r) => r[figure] as number | null))
      ;(first as Record<F, number | null>)[figure] = low
      ;(last as Record<F, number | null>)[figure] = high
    }
    kept.push(first)
    if (these.length > 1) kept.push(last)
  }
  return kept
}

// The lowest and the highest, whichever came first first.
function extremes(values: (number | null)[]): [number | null, number | null] {
  let [low, high] = [-1, -1]
  values.forEach((v, i) => {
    if (v === null) return
    if (low < 0 || v < values[low]!) low = i
    if (high < 0 || v > values[high]!) high = i
  })
  if (low < 0) return [null, null]
  return low <= high ? [values[low]!, values[high]!] : [values[high]!, values[low]!]
}

/** What was said, in its own words: the texts of a change, one after another. */
export function wordsIn(body: unknown): string {
  if (typeof body === 'string') return body
  if (Array.isArray(body)) return body.map(wordsIn).filter(Boolean).join(', ')
  if (typeof body !== 'object' || body === null || body instanceof Blob) return ''
  return Object.entries(body)
    .filter(([name]) => name !== 'step')
    .map(([, value]) => wordsIn(value))
    .filter(Boolean)
    .join(', ')
}

/** One way of writing a puppet as JSON, so that equal documents are equal bytes. */

/** JSON with the keys of every object sorted; arrays keep their order. */
export const canonicalJson = (value: unknown): string => JSON.stringify(sorted(value))

/** The value with sorted keys; lists of plain values, the bulk of a puppet, are passed on as they are. */
function sorted(value: unknown): unknown {
  if (value === null || typeof value !== 'object') return value
  if (Array.isArray(value)) return value.some((v) => v !== null && typeof v === 'object') ? value.map(sorted) : value
  const record = value as Record<string, unknown>
  return Object.fromEntries(
    Object.keys(record)
      .sort()
      .map((key) => [key, sorted(record[key])]),
  )
}

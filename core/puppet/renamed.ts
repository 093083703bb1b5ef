/** A puppet under another id. Addresses of what is the puppet's own, its view and its camera, carry its id and go along. */

/** Families of channels that belong to the puppet as a whole. */
const OWN_FAMILIES = ['puppet', 'camera']

/**
 * A document with another id: a puppet of the present version, or one of an older version as it was read, which is why nothing is taken
 * for granted of it.
 */
export function withPuppetId<T extends object>(document: T, id: string): T {
  const old = (document as { id?: unknown }).id
  if (typeof old !== 'string' || old === id) return { ...document, id }
  const own = (text: string): string => {
    const family = OWN_FAMILIES.find((name) => text.startsWith(`${name}/${old}/`))
    return family === undefined ? text : `${family}/${id}${text.slice(family.length + 1 + old.length)}`
  }
  const copy = (value: unknown): unknown => {
    if (typeof value === 'string') return own(value)
    if (Array.isArray(value)) return value.map(copy)
    if (typeof value !== 'object' || value === null) return value
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [own(key), copy(inner)]))
  }
  // Only what names channels can name these.
  const fields = Object.entries(document).map(([key, value]) => [key, NAMING.has(key) ? copy(value) : value])
  return { ...Object.fromEntries(fields), id } as T
}

const NAMING: ReadonlySet<string> = new Set(['pose', 'poses', 'clips', 'controls', 'responses', 'flipbooks', 'cues', 'idles'])

/**
 * Paths into documents: where in a puppet something stands, as fields and signs between slashes. `*` stands for each value of a list or
 * record, `#` for each key of a record: the path parts, star, children, star leads to every child of every part.
 */
import { nth } from './sure'

/** Steps from the top of a document. */
export type DocPath = readonly string[]
/** Steps of one way along a path: fields, keys and indices. */
export type Trail = readonly (string | number)[]

/** A path as steps. */
export const pathOf = (text: string): DocPath => text.split('/')

/**
 * Calls back for every text at a path; what does not fit the path is passed over.
 *
 * @param before the document as it was: what is the same object in the same place, and keys that were there, are passed over
 */
export function visitTexts(document: object, path: DocPath, found: (text: string, trail: Trail) => void, before?: object): void {
  const trail: (string | number)[] = []
  const into = (value: unknown, was: unknown, at: number): void => {
    if (at === path.length) return typeof value === 'string' ? found(value, [...trail]) : undefined
    if (typeof value !== 'object' || value === null) return
    const old = typeof was === 'object' && was !== null ? (was as Readonly<Record<string | number, unknown>>) : null
    const step = nth(path, at)
    if (step === '#') {
      for (const key of Object.keys(value)) {
        if (old && Object.hasOwn(old, key)) continue
        trail.push(key)
        found(key, [...trail])
        trail.pop()
      }
      return
    }
    const next = (key: string | number, inner: unknown): void => {
      const last = old?.[key]
      if (old && inner === last) return
      trail.push(key)
      into(inner, last, at + 1)
      trail.pop()
    }
    if (step !== '*') next(step, (value as Record<string, unknown>)[step])
    else if (Array.isArray(value)) value.forEach((inner, k) => next(k, inner))
    else for (const [key, inner] of Object.entries(value)) next(key, inner)
  }
  into(document, before, 0)
}

/** What a trail leads to; undefined where it leads nowhere. */
export function valueAt(document: object, trail: Trail): unknown {
  let value: unknown = document
  for (const step of trail) {
    if (typeof value !== 'object' || value === null) return undefined
    value = (value as Record<string | number, unknown>)[step]
  }
  return value
}

/** Changes what a trail leads to in a draft; undefined takes it out. */
export function replaceAt(draft: object, trail: Trail, value: unknown): void {
  const holder = valueAt(draft, trail.slice(0, -1))
  const key = trail[trail.length - 1]
  if (typeof holder !== 'object' || holder === null || key === undefined) return
  if (value !== undefined) (holder as Record<string | number, unknown>)[key] = value
  else if (Array.isArray(holder)) holder.splice(Number(key), 1)
  else delete (holder as Record<string | number, unknown>)[key]
}

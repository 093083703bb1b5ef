/** Settings that the browser keeps, of all puppets. */

/** A setting as it was kept; null where there is none, or where nothing can be kept. */
export const stored = (key: string): string | null => {
  try {
    return localStorage.getItem(key)
  } catch {
    return null
  }
}

/** A setting that is yes or no; null where neither was kept. */
export function storedYes(key: string): boolean | null {
  const kept = stored(key)
  return kept === null ? null : kept === 'yes'
}

/** A setting of several values; null where there is none, or where it cannot be read. */
export function storedJson(key: string): unknown {
  try {
    return JSON.parse(stored(key) ?? 'null')
  } catch {
    return null
  }
}

/** Keeps a setting in the browser; without storage it lasts as long as the page. */
export function store(key: string, value: string): void {
  try {
    localStorage.setItem(key, value)
  } catch {
    // It is set all the same.
  }
}

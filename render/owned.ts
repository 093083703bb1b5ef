/** Skia objects live outside the garbage collector: each is owned by one holder that deletes it. */

interface Deletable {
  delete(): void
}

let living = 0

/** Objects that are owned and not yet deleted, in this process. For tests. */
export const livingObjects = (): number => living

/** Takes ownership of an object; returns it and counts it. */
export function own<T extends Deletable>(object: T): T {
  living++
  return object
}

/** Deletes an owned object. */
export function free(object: Deletable | null | undefined): void {
  if (!object) return
  object.delete()
  living--
}

/** Uses an object for the length of a call and deletes it afterwards. */
export function using<T extends Deletable, R>(object: T, use: (object: T) => R): R {
  own(object)
  try {
    return use(object)
  } finally {
    free(object)
  }
}

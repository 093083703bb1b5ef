/** For what is known to be there though its type cannot say so: it is taken, or an edit is refused with what is missing. */
import { EditError } from './errors'

/** A value that is there; throws an EditError where it is not. */
export function sure<T>(value: T | null | undefined, what = 'What was asked for'): T {
  if (value === null || value === undefined) throw new EditError(`${what} is not there.`)
  return value
}

/** The item of a list at an index, from its end where it is negative; throws an EditError outside of the list. Not for numbers in flat arrays: called with lists
 * of many kinds it is some twenty-five times as slow as a bare index. */
export function nth<T>(list: ArrayLike<T>, index: number): T {
  const item = list[index < 0 ? list.length + index : index]
  if (item === undefined) throw new EditError(`A list of ${list.length} has no item ${index}.`)
  return item
}

/** The record with an id; throws an EditError where there is none. */
export function recordOf<T>(records: Readonly<Record<string, T>>, id: string): T {
  const record = records[id]
  if (record === undefined) throw new EditError(`There is nothing with the id "${id}".`)
  return record
}

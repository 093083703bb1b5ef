/** Numbers that are written after flags. */
import { Failure } from './failure'

/** A whole number from 1 on; throws Failure with what was written. */
export function wholeNumber(name: string, text: string, most: number): number {
  const value = Number(text)
  if (!Number.isInteger(value) || value < 1 || value > most) throw new Failure(`${name} ${text}: this is no number from 1 to ${most}`)
  return value
}

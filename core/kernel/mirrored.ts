/**
 * A value on the other side of a puppet: what goes the other way does so from rest.
 *
 * @param sign 1 for what is the same on the other side, -1 for what goes the other way
 */
export const mirroredValue = (value: number, sign: 1 | -1, rest: number): number => (sign === 1 ? value : 2 * rest - value)

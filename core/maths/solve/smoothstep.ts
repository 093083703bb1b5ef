/** A share from 0 to 1 that sets off and arrives gently: the cubic with flat ends. */
export const smoothstep = (share: number): number => share * share * (3 - 2 * share)

/** The same with no jolt at its ends (Flash and Hogan 1985). */
export const minimumJerk = (share: number): number => share * share * share * (10 + share * (6 * share - 15))

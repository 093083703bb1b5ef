/** A share from 0 to 1 that sets off and arrives gently: the cubic with flat ends. */
export const smoothstep = (share: number): number => share * share * (3 - 2 * share)

/** A name that none of some others has: as it is, or with the first number that makes it another. */
export function freeName(taken: readonly { readonly name: string }[], base: string): string {
  const names = new Set(taken.map(({ name }) => name))
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${n}`
    if (!names.has(name)) return name
  }
}

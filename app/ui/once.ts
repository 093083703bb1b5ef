/** A function that is called once, however often it is asked: what a page or worker loads or claims for as long as it lives. */
export function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null
  return () => (made ??= { value: make() }).value
}

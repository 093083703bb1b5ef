/** Numbers, plurals and lists as people read them: the one place that knows the language they are written in. */

const LANGUAGE = 'en-GB'
const plural = new Intl.PluralRules(LANGUAGE)
const figures = new Intl.NumberFormat(LANGUAGE)
const conjunction = new Intl.ListFormat(LANGUAGE, { style: 'long', type: 'conjunction' })

/** A whole number in figures: `12,400`. */
export const figure = (n: number): string => figures.format(n)

/** The form of a word that goes with a number. */
export const pluralOf = (n: number, one: string, several = `${one}s`): string => (plural.select(n) === 'one' ? one : several)

/** A number of things: `1 stop`, `12 stops`. */
export const counted = (n: number, one: string, several?: string): string => `${figure(n)} ${pluralOf(n, one, several)}`

/** Names in a row: `A, B and C`. */
export const listed = (names: readonly string[]): string => conjunction.format(names)

/** The first names, and how many more there are: `A, B and 3 more`. */
export const listedUpTo = (names: readonly string[], most: number): string =>
  names.length > most ? listed([...names.slice(0, most), `${figure(names.length - most)} more`]) : listed(names)

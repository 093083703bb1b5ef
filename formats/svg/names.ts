/** What parts are called. */
import type { SvgElement } from './tree'

/** Ids that drawing programs hand out by themselves are no names. */
const AUTOMATIC_ID =
  /^((\w+-)?id|path|rect|circle|ellipse|line|poly(line|gon)|g|group|svg|layer|use|image|shape|vector|object|xml|clip(path)?|mask)?[-_ ]?\d+([-_.]\d+)*_?$/i

/** Attributes, with any prefix, in which drawing programs keep the name of a layer. */
const LABEL = /^(?:[\w.-]+:)?(?:label|layer-?name)$|^[\w.-]+:(?:id|title|name)$|^data-(?:name|label|title)$/i

const LONGEST = 200

/** Undoes the ways in which programs squeeze a name into an id: `Left_x20_arm` is `Left arm`. */
export const decodeName = (text: string): string =>
  text
    .replace(/_x([0-9a-f]{2,5})_/gi, (_, hex: string) => String.fromCodePoint(Number.parseInt(hex, 16)))
    .replace(/[\s\p{Cc}]+/gu, ' ')
    .trim()

/** The name that a person gave to an element, if any: a label, a title, or an id that is not made by a program. */
export function ownName(element: SvgElement): string | null {
  let name = known.get(element)
  if (name === undefined) {
    name = readName(element)
    known.set(element, name)
  }
  return name
}

const known = new WeakMap<SvgElement, string | null>()

function readName(element: SvgElement): string | null {
  const label = Object.entries(element.attributes).find(([name, value]) => LABEL.test(name) && value.trim() !== '')?.[1]
  const title = element.children.find((c) => c.name === 'title')?.text
  const id = element.attributes['id']?.trim()
  const written = [label, title, element.attributes['aria-label'], id && !AUTOMATIC_ID.test(id) ? id : '']
  const name = written.map((text) => decodeName(text ?? '')).find((text) => text !== '')
  return name ? name.slice(0, LONGEST) : null
}

const WORDS: Record<string, string> = {
  g: 'group',
  a: 'group',
  svg: 'group',
  switch: 'group',
  use: 'copy',
  image: 'picture',
  path: 'path',
  rect: 'box',
  circle: 'circle',
  ellipse: 'oval',
  line: 'line',
  polyline: 'line',
  polygon: 'polygon',
}

const wordOf = (element: SvgElement): string => WORDS[element.name] ?? element.name

/** The commonest kinds of elements of a list, e.g. `2 paths and oval`. */
export function kindsOf(elements: readonly SvgElement[]): string {
  const counts = new Map<string, number>()
  for (const element of elements) counts.set(wordOf(element), (counts.get(wordOf(element)) ?? 0) + 1)
  const words = [...counts].sort((a, b) => b[1] - a[1]).map(([word, n]) => (n === 1 ? word : `${n} ${plural(word)}`))
  if (words.length === 0) return 'group'
  return words.length > 2 ? `${words.slice(0, 2).join(', ')} and more` : words.join(' and ')
}

const plural = (word: string): string => (/(x|s)$/.test(word) ? `${word}es` : word === 'copy' ? 'copies' : `${word}s`)

/** A name for a group that has none, from what is in it: names first, else kinds. */
export function contentName(elements: readonly SvgElement[]): string {
  const names = elements.map(ownName).filter((name) => name !== null)
  if (names.length === 0) return kindsOf(elements)
  const shown = names.slice(0, 2).join(', ')
  return (names.length > 2 ? `${shown} and more` : shown).slice(0, LONGEST)
}

/**
 * XML to a plain tree of elements. Nothing is run or fetched. Entities that a file defines for itself stand for plain
 * text of modest length and are not expanded again, so that none can grow beyond all bounds.
 */
import { SaxesParser } from 'saxes'
import { FormatError } from '../warnings'

export interface SvgElement {
  /** Without the prefix of the SVG namespace; other prefixes stay. */
  readonly name: string
  readonly parent: SvgElement | null
  readonly attributes: Readonly<Record<string, string>>
  readonly children: SvgElement[]
  readonly line: number
  /** Text directly inside. */
  text: string
}

export interface TreeLimits {
  readonly elements: number
  readonly depth: number
}

export const DEFAULT_LIMITS: TreeLimits = { elements: 200_000, depth: 1_000 }

/** Parses a document. Throws FormatError with the line where reading stopped. */
export function parseTree(source: string, limits: TreeLimits = DEFAULT_LIMITS): SvgElement {
  if (source.trim() === '') throw new FormatError('The file is empty.')
  const parser = new SaxesParser()
  const open: SvgElement[] = []
  let root: SvgElement | null = null
  let count = 0
  parser.on('error', (error) => {
    throw new FormatError(`The file is not well-formed XML: ${error.message.replace(/^(\d+):(\d+): /, 'line $1, ')}.`)
  })
  parser.on('doctype', (text) => {
    for (const [name, value] of plainEntities(text)) parser.ENTITIES[name] = value
  })
  parser.on('opentag', (tag) => {
    if (++count > limits.elements) throw new FormatError(`The drawing has more than ${limits.elements} elements.`)
    if (open.length >= limits.depth) throw new FormatError(`The drawing is nested deeper than ${limits.depth} groups.`)
    const element: SvgElement = {
      name: tag.name.replace(/^svg:/, ''),
      parent: open.at(-1) ?? null,
      attributes: tag.attributes as Record<string, string>,
      children: [],
      line: parser.line,
      text: '',
    }
    if (open.length > 0) open.at(-1)!.children.push(element)
    else root = element
    open.push(element)
  })
  parser.on('closetag', () => open.pop())
  const addText = (text: string): void => {
    const element = open.at(-1)
    if (element) element.text += text
  }
  parser.on('text', addText)
  parser.on('cdata', addText)
  parser.write(source.replace(/^\uFEFF/, '')).close()
  if (!root) throw new FormatError('The file is empty.')
  return root
}

/** Longest text that an entity may stand for. */
const LONGEST_ENTITY = 300

/** Entities of a document type that stand for plain text: neither markup nor further entities. */
function plainEntities(doctype: string): [string, string][] {
  const out: [string, string][] = []
  for (const [, name = '', , value = ''] of doctype.matchAll(/<!ENTITY\s+([\w.-]+)\s+(["'])(.*?)\2\s*>/gs))
    if (value.length <= LONGEST_ENTITY && !/[&<]/.test(value)) out.push([name, value])
  return out
}

/** Where an element stands, for people. */
export const placeOf = (element: SvgElement): string => {
  const id = element.attributes['id']
  return `line ${element.line}, <${element.name}${id ? ` id="${id}"` : ''}>`
}

/** All elements that have an id, the first of each. */
export function elementsById(root: SvgElement): Map<string, SvgElement> {
  const out = new Map<string, SvgElement>()
  const stack = [root]
  while (stack.length > 0) {
    const element = stack.pop()!
    const id = element.attributes['id']
    if (id && !out.has(id)) out.set(id, element)
    for (let i = element.children.length - 1; i >= 0; i--) stack.push(element.children[i]!)
  }
  return out
}

/** How many elements there are from one on. */
export function countOf(root: SvgElement): number {
  let count = 0
  const stack = [root]
  while (stack.length > 0) {
    count++
    for (const child of stack.pop()!.children) stack.push(child)
  }
  return count
}

/** Style sheets: which declarations apply to an element, in the order of the cascade. */
import { compile } from 'css-select'
import { findAll, generate, parse, walk, type Atrule, type Declaration, type Rule, type Selector } from 'css-tree'
import type { SvgElement } from './tree'

export interface Declared {
  readonly property: string
  readonly value: string
  readonly important: boolean
}

interface SheetRule {
  readonly matches: (element: SvgElement) => boolean
  /** What an element must have for the rule to match: `#id`, `.class`, the same of one above it, a name, or `*` for any. */
  readonly key: string
  readonly specificity: number
  readonly declarations: readonly Declared[]
}

/** What a sheet holds that does not count here. */
export interface SheetProblem {
  readonly element: SvgElement
  readonly message: string
}

export interface StyleSheet {
  /** Declarations for an element, weakest first. */
  readonly declarationsFor: (element: SvgElement) => readonly Declared[]
  readonly problems: readonly SheetProblem[]
}

/** The tree of elements as the selector package walks it. */
const ADAPTER = {
  isTag: (node: SvgElement): node is SvgElement => node !== null,
  getAttributeValue: (element: SvgElement, name: string): string | undefined => element.attributes[name],
  getChildren: (node: SvgElement): SvgElement[] => node.children,
  getName: (element: SvgElement): string => element.name,
  getParent: (node: SvgElement): SvgElement | null => node.parent,
  getSiblings: (node: SvgElement): SvgElement[] => node.parent?.children ?? [node],
  getText: (node: SvgElement): string => node.text,
  hasAttrib: (element: SvgElement, name: string): boolean => name in element.attributes,
  removeSubsets: (nodes: SvgElement[]): SvgElement[] => nodes,
}

export const declarationsOf = (css: ReturnType<typeof parse>): Declared[] => {
  const out: Declared[] = []
  walk(css, (node) => {
    if (node.type === 'Declaration') out.push(declared(node))
  })
  return out
}

const declared = (node: Declaration): Declared => ({
  property: node.property.toLowerCase(),
  value: generate(node.value).trim(),
  important: node.important === true,
})

/** Reads every `<style>` of a drawing. Selectors that cannot match anything still, like states, are left out. */
export function readStyleSheet(root: SvgElement): StyleSheet {
  const rules: SheetRule[] = []
  const problems: SheetProblem[] = []
  for (const element of styleElements(root)) {
    const warn = (message: string): void => void problems.push({ element, message })
    const type = element.attributes['type']
    if (type && type !== 'text/css') warn(`holds ${type.slice(0, 40)}, which is not read`)
    else readRules(element.text, rules, warn)
  }
  // A stable sort: rules of equal weight keep their order.
  rules.sort((a, b) => a.specificity - b.specificity)
  const byKey = indexOf(rules)
  return {
    declarationsFor: (element) =>
      rules.length === 0 ? [] : candidates(byKey, element).flatMap((r) => (r.matches(element) ? r.declarations : [])),
    problems,
  }
}

interface Placed extends SheetRule {
  readonly place: number
}

/** Rules by what they ask of the element itself, so that each element is tried against those alone that may match. */
function indexOf(rules: readonly SheetRule[]): ReadonlyMap<string, readonly Placed[]> {
  const out = new Map<string, Placed[]>()
  rules.forEach((rule, place) => {
    const list = out.get(rule.key) ?? []
    out.set(rule.key, list)
    list.push({ ...rule, place })
  })
  return out
}

/** Ids and classes of an element, as keys. */
const marksOf = ({ attributes }: SvgElement): string[] => {
  const classes = (attributes['class'] ?? '').split(/\s+/).filter(Boolean)
  return [...(attributes['id'] ? [`#${attributes['id']}`] : []), ...classes.map((c) => `.${c}`)]
}

/** A key that asks for something of an element above. */
const above = (key: string): string => `^${key}`

/** Rules that may match an element, in the order of the cascade. */
function candidates(byKey: ReadonlyMap<string, readonly Placed[]>, element: SvgElement): Placed[] {
  const keys = new Set(['*', element.name, ...marksOf(element)])
  for (let at = element.parent; at; at = at.parent) for (const key of marksOf(at)) keys.add(above(key))
  return [...keys].flatMap((key) => byKey.get(key) ?? []).sort((a, b) => a.place - b.place)
}

/** What a selector asks for most narrowly: an id or a class of the element, else one of an element above it, else its name. */
function keyOf(selector: Selector): string {
  let own = { mark: '', name: '' }
  let higher = ''
  selector.children.forEach((node) => {
    if (node.type === 'Combinator') {
      const isAbove = node.name === ' ' || node.name === '>'
      // What stands beside an element says nothing of what is above it.
      higher = isAbove ? own.mark || higher : ''
      own = { mark: '', name: '' }
    } else if (node.type === 'IdSelector') own.mark = `#${node.name}`
    else if (node.type === 'ClassSelector' && !own.mark.startsWith('#')) own.mark = `.${node.name}`
    else if (node.type === 'TypeSelector' && node.name !== '*') own.name = node.name
  })
  return own.mark || (higher && above(higher)) || own.name || '*'
}

function styleElements(root: SvgElement): SvgElement[] {
  const out: SvgElement[] = []
  const stack = [root]
  while (stack.length > 0) {
    const element = stack.pop()!
    if (element.name === 'style') out.push(element)
    for (let i = element.children.length - 1; i >= 0; i--) stack.push(element.children[i]!)
  }
  return out
}

function readRules(css: string, rules: SheetRule[], warn: (message: string) => void): void {
  const sheet = parse(css, { parseCustomProperty: false })
  if (sheet.type !== 'StyleSheet') return
  sheet.children.forEach((node) => {
    if (node.type === 'Rule') addRule(node, rules, warn)
    else if (node.type === 'Atrule') readAtRule(node, rules, warn)
  })
}

function readAtRule(node: Atrule, rules: SheetRule[], warn: (message: string) => void): void {
  const name = node.name.toLowerCase()
  const media = name === 'media' ? (node.prelude ? generate(node.prelude) : 'all').toLowerCase() : ''
  if (media === 'print') return
  if (node.block && (media === 'all' || media === 'screen')) {
    for (const rule of findAll(node.block, (n) => n.type === 'Rule')) addRule(rule as Rule, rules, warn)
  } else if (!['charset', 'font-face', 'namespace'].includes(name)) {
    warn(`@${name} in a style sheet is not followed`)
  }
}

function addRule(rule: Rule, rules: SheetRule[], warn: (message: string) => void): void {
  const declarations = declarationsOf(rule.block)
  if (rule.prelude.type !== 'SelectorList') return warn(`the selector "${generate(rule.prelude).slice(0, 60)}" cannot be read`)
  rule.prelude.children.forEach((selector) => {
    const text = generate(selector)
    if (selector.type !== 'Selector') return
    try {
      const matches = compile<SvgElement, SvgElement>(text, { adapter: ADAPTER, xmlMode: true, cacheResults: false })
      rules.push({ matches, key: keyOf(selector), specificity: specificityOf(selector), declarations })
    } catch {
      warn(`the selector "${text.slice(0, 60)}" is not understood`)
    }
  })
}

/** Weight of a selector (CSS Selectors 3): ids, then classes, attributes and pseudo-classes, then element names. */
function specificityOf(selector: Parameters<typeof walk>[0]): number {
  let weight = 0
  walk(selector, (node) => {
    if (node.type === 'IdSelector') weight += 1_000_000
    else if (node.type === 'ClassSelector' || node.type === 'AttributeSelector') weight += 1_000
    else if (node.type === 'PseudoClassSelector') weight += node.name === 'not' || node.name === 'is' || node.name === 'where' ? 0 : 1_000
    else if (node.type === 'TypeSelector' && node.name !== '*') weight += 1
  })
  return weight
}

/** Style sheets: which declarations apply to an element, in the order of the cascade. */
import { compile } from 'css-select'
import { findAll, generate, parse, walk, type Atrule, type Declaration, type Rule } from 'css-tree'
import type { SvgElement } from './tree'

export interface Declared {
  readonly property: string
  readonly value: string
  readonly important: boolean
}

interface SheetRule {
  readonly matches: (element: SvgElement) => boolean
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
  return {
    declarationsFor: (element) => (rules.length === 0 ? [] : rules.flatMap((r) => (r.matches(element) ? r.declarations : []))),
    problems,
  }
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
    try {
      const matches = compile<SvgElement, SvgElement>(text, { adapter: ADAPTER, xmlMode: true, cacheResults: false })
      rules.push({ matches, specificity: specificityOf(selector), declarations })
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

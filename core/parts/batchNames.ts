/** New names for many parts by one rule. */
import { otherSide } from '../kernel/sides'

/** How names of many parts are changed at once. */
export type NameRule =
  | { readonly do: 'add'; readonly text: string; readonly at: 'beginning' | 'end' }
  | { readonly do: 'remove'; readonly text: string; readonly at: Where }
  | { readonly do: 'replace'; readonly text: string; readonly by: string; readonly at: Where }
  /** `Feather` to `Feather 1`, `Feather 2`…; an empty text keeps each name and numbers it. */
  | { readonly do: 'number'; readonly text: string; readonly from: number; readonly digits: number }
  | { readonly do: 'side' }

/** Which end of a name is meant. */
export type Where = 'beginning' | 'end' | 'anywhere'

const LONGEST = 200

/**
 * Names after a rule, in the order given. A name that would become empty or too long stays as it is; so does one in
 * which what is to be replaced is not found.
 */
export function renamed(names: readonly string[], rule: NameRule): string[] {
  return names.map((name, i) => {
    const made = apply(name, i, rule).replace(/\s+/g, ' ').trim()
    return made === '' || made.length > LONGEST ? name : made
  })
}

function apply(name: string, i: number, rule: NameRule): string {
  switch (rule.do) {
    case 'add':
      return rule.at === 'beginning' ? `${rule.text}${name}` : `${name}${rule.text}`
    case 'remove':
      return replaced(name, rule.text, '', rule.at)
    case 'replace':
      return replaced(name, rule.text, rule.by, rule.at)
    case 'number':
      return `${rule.text === '' ? name : rule.text} ${String(rule.from + i).padStart(rule.digits, '0')}`
    case 'side':
      return otherSide(name) ?? name
  }
}

/** Case does not count in what is looked for. */
function replaced(name: string, text: string, by: string, at: Where): string {
  if (text === '') return name
  const [low, wanted] = [name.toLowerCase(), text.toLowerCase()]
  if (at === 'beginning') return low.startsWith(wanted) ? by + name.slice(text.length) : name
  if (at === 'end') return low.endsWith(wanted) ? name.slice(0, name.length - text.length) + by : name
  let out = ''
  for (let from = 0; ;) {
    const found = low.indexOf(wanted, from)
    if (found < 0) return out + name.slice(from)
    out += name.slice(from, found) + by
    from = found + text.length
  }
}

/** A typed line as words and pauses. */

/** A word of a line, or a pause between words. */
export type Token =
  { readonly kind: 'word'; readonly text: string; readonly at: number } | { readonly kind: 'pause'; readonly seconds: number }

const PAUSES: Readonly<Record<string, number>> = {
  ',': 0.18,
  ';': 0.25,
  ':': 0.25,
  '–': 0.25,
  '—': 0.25,
  '…': 0.45,
  '.': 0.4,
  '!': 0.4,
  '?': 0.4,
  '\n': 0.4,
}

const UNITS =
  'zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(
    ' ',
  )
const TENS = ' ten twenty thirty forty fifty sixty seventy eighty ninety'.split(' ')

/** A whole number in words; digit by digit from a million on. */
export function numberWords(digits: string): string[] {
  const value = Number(digits)
  if (digits.length > 6 || (digits.length > 1 && digits.startsWith('0'))) return [...digits].map((d) => UNITS[Number(d)]!)
  if (value < 20) return [UNITS[value]!]
  if (value < 100) return [TENS[Math.floor(value / 10)]!, ...(value % 10 === 0 ? [] : [UNITS[value % 10]!])]
  const [size, name] = value < 1000 ? [100, 'hundred'] : [1000, 'thousand']
  const rest = value % size
  return [...numberWords(String(Math.floor(value / size))), name, ...(rest === 0 ? [] : numberWords(String(rest)))]
}

const SIGNS: Readonly<Record<string, string>> = { '&': 'and', '%': 'percent', '+': 'plus', '@': 'at', '=': 'equals' }

/** Splits a line; `at` is where a word begins in it. Signs that are not spoken are passed over. */
export function tokensOf(line: string): Token[] {
  const out: Token[] = []
  for (const match of line.matchAll(/[\p{L}\p{M}]+(?:['’][\p{L}\p{M}]+)*|\d+|[,;:–—…!?\n&%+@=]|\.+/gu)) {
    const [found] = match
    const at = match.index
    const pause = PAUSES[found] ?? (found.startsWith('.') ? (found.length > 1 ? 0.45 : PAUSES['.']) : undefined)
    if (pause !== undefined) out.push({ kind: 'pause', seconds: pause })
    else if (/^\d/.test(found)) for (const text of numberWords(found)) out.push({ kind: 'word', text, at })
    else out.push({ kind: 'word', text: SIGNS[found] ?? plain(found), at })
  }
  return out
}

/** Small letters without accents, as pronouncing dictionaries have them. */
const plain = (word: string): string => word.toLowerCase().replace(/’/g, "'").normalize('NFD').replace(/\p{M}/gu, '')

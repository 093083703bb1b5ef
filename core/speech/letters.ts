/**
 * How unknown words are said: letters to sounds by rules with contexts, the first that fits counts, in the manner of Elovitz,
 * Johnson, McHugh and Shore (1976, "Letter-to-sound rules for automatic translation of English text to phonetics").
 */

/** Letters, what stands before and after them (as ends of regular expressions), and the sounds they make. */
type Rule = readonly [letters: string, before: string, after: string, phones: string]

const V = '[aeiouy]'
const C = '[bcdfghjklmnpqrstvwxz]'
/** Consonants across which a final e makes a vowel long. */
const ONE = '[bcdfghjklmnpqrstvwz]'
const FRONT = '[eiy]'
const END = '$'

const RULES: readonly Rule[] = [
  ['augh', '', '', 'AO'],
  ['ough', '', 't', 'AO'],
  ['ough', '', '', 'OW'],
  ['eigh', '', '', 'EY'],
  ['igh', '', '', 'AY'],
  ['tion', '', '', 'SH AH N'],
  ['ssion', '', '', 'SH AH N'],
  ['sion', V, '', 'ZH AH N'],
  ['sion', '', '', 'SH AH N'],
  ['cious', '', '', 'SH AH S'],
  ['tious', '', '', 'SH AH S'],
  ['ture', '', END, 'CH ER'],
  ['sure', V, END, 'ZH ER'],
  ['ous', '', END, 'AH S'],
  ['ful', '', END, 'F AH L'],
  ['tch', '', '', 'CH'],
  ['sch', '', '', 'S K'],
  ['dge', '', '', 'JH'],
  ['ck', '', '', 'K'],
  ['qu', '', '', 'K W'],
  ['kn', '^', '', 'N'],
  ['gn', '^', '', 'N'],
  ['gn', '', END, 'N'],
  ['wr', '^', '', 'R'],
  ['ps', '^', '', 'S'],
  ['mb', '', END, 'M'],
  ['wh', '', 'o', 'HH'],
  ['wh', '', '', 'W'],
  ['ph', '', '', 'F'],
  ['gh', '^', '', 'G'],
  ['gh', '', '', ''],
  ['sh', '', '', 'SH'],
  ['ch', '', '[rl]', 'K'],
  ['ch', '', '', 'CH'],
  ['th', '^', '(e|at|is|ere|ese|ose|ough|en|an|ey|em|us|y)', 'DH'],
  ['th', V, 'er', 'DH'],
  ['th', '', '', 'TH'],
  ['ng', '', END, 'NG'],
  ['ng', '', C, 'NG'],
  ['ng', '', '', 'NG G'],
  ['nk', '', '', 'NG K'],
  ['sc', '', FRONT, 'S'],
  ['ss', '', '', 'S'],
  ['zz', '', '', 'Z'],
  ['cc', '', FRONT, 'K S'],
  ['c', '', FRONT, 'S'],
  ['c', '', '', 'K'],
  ['gg', '', '', 'G'],
  ['g', '', 'e$', 'JH'],
  ['g', '', '[ey]', 'JH'],
  ['g', '', 'i[aot]', 'JH'],
  ['g', '', '', 'G'],
  ['ai', '', 'r', 'EH'],
  ['ai', '', '', 'EY'],
  ['ay', '', '', 'EY'],
  ['au', '', '', 'AO'],
  ['aw', '', '', 'AO'],
  ['all', '', `(${C}|$)`, 'AO L'],
  ['are', '', END, 'EH R'],
  ['ar', 'w', '', 'AO R'],
  ['ar', '', '', 'AA R'],
  ['a', 'w', '', 'AA'],
  ['a', '', `${ONE}e`, 'EY'],
  ['a', '', `${ONE}[iouy]`, 'EY'],
  ['a', `..`, END, 'AH'],
  ['a', '^', END, 'AH'],
  ['a', '', '', 'AE'],
  ['ear', '', `${C}`, 'ER'],
  ['ear', '', '', 'IH R'],
  ['ea', '', 'd', 'EH'],
  ['ea', '', '', 'IY'],
  ['ee', '', '', 'IY'],
  ['ei', '', '', 'IY'],
  ['ew', '', '', 'UW'],
  ['eu', '', '', 'UW'],
  ['ey', '', END, 'IY'],
  ['ey', '', '', 'EY'],
  ['er', '', '', 'ER'],
  ['ed', `${V}.*[td]`, END, 'IH D'],
  ['ed', `${V}.*[pkfsxh]`, END, 'T'],
  ['ed', `${V}.*`, END, 'D'],
  ['es', `${V}.*(s|x|z|ch|sh|c|g)`, END, 'IH Z'],
  ['es', `${V}.*`, END, 'Z'],
  ['e', `${V}.*${C}`, END, ''],
  ['e', `^${C}*`, END, 'IY'],
  ['e', `${V}.*${C}`, '(ly|ment|ness|ful|less)', ''],
  ['e', '', `${ONE}e`, 'IY'],
  ['e', '', '', 'EH'],
  ['ie', '', END, 'IY'],
  ['ie', '', '', 'IY'],
  ['ir', '', '', 'ER'],
  ['ind', '', END, 'AY N D'],
  ['ild', '', END, 'AY L D'],
  ['ing', '', END, 'IH NG'],
  ['io', '', '', 'IY OW'],
  ['ia', '', '', 'IY AH'],
  ['i', '', `${ONE}e`, 'AY'],
  ['i', '^', END, 'AY'],
  ['i', '', END, 'IY'],
  ['i', '', '', 'IH'],
  ['oa', '', '', 'OW'],
  ['oi', '', '', 'OY'],
  ['oy', '', '', 'OY'],
  ['ook', '', '', 'UH K'],
  ['oo', '', '', 'UW'],
  ['ould', '', '', 'UH D'],
  ['ou', '', '', 'AW'],
  ['ow', '', `(${END}|n$)`, 'OW'],
  ['ow', '', '', 'AW'],
  ['old', '', '', 'OW L D'],
  ['or', 'w', '', 'ER'],
  ['or', '..', END, 'ER'],
  ['or', '', '', 'AO R'],
  ['o', '', `${ONE}e`, 'OW'],
  ['o', '', END, 'OW'],
  ['o', '', `${ONE}[iouy]`, 'OW'],
  ['o', '', '', 'AA'],
  ['ue', '', END, 'UW'],
  ['ui', '', '', 'UW'],
  ['ur', '', '', 'ER'],
  ['u', '^', `n${C}`, 'AH'],
  ['u', '^', `${C}`, 'Y UW'],
  ['u', '', `${ONE}[eiou]`, 'UW'],
  ['u', '', END, 'UW'],
  ['u', '', '', 'AH'],
  ['y', '^', '', 'Y'],
  ['y', `^${C}*`, END, 'AY'],
  ['y', '', END, 'IY'],
  ['y', '', `${ONE}e`, 'AY'],
  ['y', '', '', 'IH'],
  ['x', '^', '', 'Z'],
  ['x', '', '', 'K S'],
  ['s', V, `${V}`, 'Z'],
  ['s', '[bdglmnrvwaeiouy]', END, 'Z'],
  ['s', '', '', 'S'],
  ['j', '', '', 'JH'],
  ['q', '', '', 'K'],
  ['h', '', `(${C}|$)`, ''],
  ['h', '', '', 'HH'],
  ['bb', '', '', 'B'],
  ['dd', '', '', 'D'],
  ['ff', '', '', 'F'],
  ['ll', '', '', 'L'],
  ['mm', '', '', 'M'],
  ['nn', '', '', 'N'],
  ['pp', '', '', 'P'],
  ['rr', '', '', 'R'],
  ['tt', '', '', 'T'],
  ...(['b', 'd', 'f', 'k', 'l', 'm', 'n', 'p', 'r', 't', 'v', 'w', 'z'] as const).map((c): Rule => [c, '', '', c.toUpperCase()]),
]

interface Ready {
  readonly letters: string
  readonly before: RegExp | null
  readonly after: RegExp | null
  readonly phones: readonly string[]
}

/** By first letters, so that few are tried at each place. */
const READY = new Map<string, Ready[]>()
for (const [letters, before, after, phones] of RULES) {
  const list = READY.get(letters[0]!) ?? []
  READY.set(letters[0]!, list)
  list.push({
    letters,
    before: before ? new RegExp(`${before}$`) : null,
    after: after ? new RegExp(`^${after}`) : null,
    phones: phones ? phones.split(' ') : [],
  })
}

/** Sounds of a word in small letters, without stress; letters that no rule knows are silent. */
export function soundsByRule(word: string): string[] {
  const letters = word.replace(/[^a-z]/g, '')
  const out: string[] = []
  for (let at = 0; at < letters.length;) {
    const [before, rest] = [letters.slice(0, at), letters.slice(at)]
    const rule = READY.get(rest[0]!)?.find(
      (r) => rest.startsWith(r.letters) && (!r.before || r.before.test(before)) && (!r.after || r.after.test(rest.slice(r.letters.length))),
    )
    out.push(...(rule?.phones ?? []))
    at += rule?.letters.length ?? 1
  }
  return out
}

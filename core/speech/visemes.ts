/**
 * Sounds of speech as a mouth shows them. Twelve shapes, from the groups of sounds (ARPABET) that look alike; a set of fewer
 * falls back on the nearest one that it has.
 */
export const VISEMES = ['rest', 'mbp', 'fv', 'th', 'l', 'd', 'k', 'ch', 'w', 'oo', 'ee', 'aa'] as const

/** A mouth shape that stands for sounds. */
export type Viseme = (typeof VISEMES)[number]

/** What people are told of a mouth shape, and which sounds it stands for. */
export interface VisemeInfo {
  readonly label: string
  readonly example: string
  /** ARPABET phonemes, without stress. */
  readonly phones: readonly string[]
  /** What it is shown by where a set does not have it, the nearest first. */
  readonly fallbacks: readonly Viseme[]
}

/** Every mouth shape with its label, sounds and fallbacks. */
export const VISEME_INFO: Readonly<Record<Viseme, VisemeInfo>> = {
  rest: { label: 'Rest', example: 'silence', phones: [], fallbacks: ['mbp'] },
  mbp: { label: 'M B P', example: 'map', phones: ['M', 'B', 'P'], fallbacks: ['rest'] },
  fv: { label: 'F V', example: 'five', phones: ['F', 'V'], fallbacks: ['d', 'ee', 'mbp'] },
  th: { label: 'TH DH', example: 'thin', phones: ['TH', 'DH'], fallbacks: ['l', 'd', 'ee'] },
  l: { label: 'L', example: 'let', phones: ['L'], fallbacks: ['d', 'th', 'ee'] },
  d: { label: 'D T S Z N', example: 'sit', phones: ['D', 'T', 'S', 'Z', 'N'], fallbacks: ['ee', 'k', 'ch'] },
  k: { label: 'K G NG H', example: 'king', phones: ['K', 'G', 'NG', 'HH', 'AH'], fallbacks: ['d', 'ee', 'aa'] },
  ch: { label: 'CH SH Z', example: 'chew', phones: ['CH', 'JH', 'SH', 'ZH'], fallbacks: ['d', 'oo', 'ee'] },
  w: { label: 'W R', example: 'we', phones: ['W', 'R', 'ER'], fallbacks: ['oo', 'ch'] },
  oo: { label: 'UW OW', example: 'boot', phones: ['UW', 'UH', 'OW', 'OY'], fallbacks: ['w', 'aa'] },
  ee: { label: 'IY IH EH', example: 'see', phones: ['IY', 'IH', 'EH', 'EY', 'Y'], fallbacks: ['d', 'aa'] },
  aa: { label: 'AA AE AW', example: 'father', phones: ['AA', 'AE', 'AO', 'AW', 'AY'], fallbacks: ['ee', 'oo'] },
}

/** Ready sets: what six, nine and twelve drawings are best spent on. */
export const VISEME_SETS: Readonly<Record<6 | 9 | 12, readonly Viseme[]>> = {
  6: ['rest', 'mbp', 'fv', 'd', 'oo', 'aa'],
  9: ['rest', 'mbp', 'fv', 'l', 'd', 'ch', 'oo', 'ee', 'aa'],
  12: VISEMES,
}

/** The viseme that a set shows for one; null where it has none at all. */
export function visemeIn(has: (viseme: Viseme) => boolean, wanted: Viseme): Viseme | null {
  const tried = new Set<Viseme>()
  const queue: Viseme[] = [wanted]
  for (let at = 0; at < queue.length; at++) {
    const viseme = queue[at]!
    if (tried.has(viseme)) continue
    tried.add(viseme)
    if (has(viseme)) return viseme
    queue.push(...VISEME_INFO[viseme].fallbacks)
  }
  return VISEMES.find(has) ?? null
}

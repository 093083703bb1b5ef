/** Which alternates stand for which sounds, as their names tell. */
import type { Part } from '../puppet/schema'
import type { SoundSet } from '../alternates/records'
import { VISEME_INFO, VISEMES, type Viseme } from '../speech/visemes'

/** Words in names that mean a shape, besides the sounds themselves. */
const WORDS: readonly (readonly [RegExp, Viseme])[] = [
  [/rest|neutral|idle|smile/, 'rest'],
  [/closed|shut|press/, 'mbp'],
  [/wide open|open|ah+\b/, 'aa'],
  [/round|pucker|\boh?\b|\bu\b/, 'oo'],
  [/wide|\be\b|\bi\b|grin/, 'ee'],
  [/bite|lip/, 'fv'],
  [/tongue/, 'l'],
]

function visemeNamed(name: string): Viseme | null {
  const words = name.toLowerCase().split(/[^a-z]+/)
  const upper = name.split(/[^A-Za-z]+/)
  const bySound = VISEMES.find((v) => words.includes(v) || VISEME_INFO[v].phones.some((p) => p.length > 1 && upper.includes(p)))
  if (bySound) return bySound
  const letters = VISEMES.find((v) => VISEME_INFO[v].phones.some((p) => upper.some((w) => w === p)))
  return letters ?? WORDS.find(([pattern]) => pattern.test(name.toLowerCase()))?.[1] ?? null
}

/** A set of sounds for the alternates of a swap; what no name tells is left open, and rest is the first of them. */
export function soundsByNames(alternates: readonly Pick<Part, 'name' | 'alternate'>[], initial: number, name: string): SoundSet {
  const sounds: SoundSet['sounds'] = {}
  for (const part of alternates) {
    const viseme = visemeNamed(part.name)
    if (viseme && sounds[viseme] === undefined) sounds[viseme] = part.alternate
  }
  sounds.rest ??= initial
  return { name, sounds }
}

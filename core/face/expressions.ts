/** Moods and sounds that a face could wear, proposed from the controls that it has. What does not look right is kept anew. */
import { type Control, controlChannel, rangeAlong, valueAtShare } from '../controls/records'
import type { FaceRole, SavedPose } from '../poses/records'
import type { Puppet } from '../puppet/schema'
import { VISEME_INFO, VISEMES } from '../speech/visemes'
import { keepPose } from '../poses/saved'
import { voiced } from '../playing/moods'
import { edit, type Edit } from '../kernel/command'

/** What of a face a control moves. Gaze is a pad, all others go along one way. */
type Feature = 'smile' | 'brows' | 'worry' | 'lids' | 'squint' | 'gazeX' | 'gazeY' | 'open' | 'wide' | 'teeth'

/** Names by which controls are known, where they do not say it otherwise. */
const NAMES: Partial<Record<Feature, RegExp>> = {
  smile: /mood|smile|happy|mouth corner/i,
  brows: /^(eye ?)?brows?\b|brow (up|height|raise)/i,
  worry: /worry|sad brows?|brow (tilt|turn|angle)|frown/i,
  lids: /\b(eye ?)?lids?\b|blink/i,
  squint: /squint/i,
}

/** Shares of the way from rest to the end of a control's range; below rest to its other end. */
type Mood = Partial<Record<Feature, number>>

const MOODS: Readonly<Record<string, Mood>> = {
  Glad: { smile: 0.9, brows: 0.35, lids: 0.08 },
  Laughing: { smile: 1, open: 0.7, brows: 0.55, lids: 0.5, squint: 0.6, teeth: 1 },
  Content: { smile: 0.5, lids: 0.35, brows: 0.1 },
  Proud: { smile: 0.55, brows: 0.7, lids: 0.42, gazeY: 0.35 },
  Curious: { brows: 0.9, worry: 0.25, gazeX: 0.55, gazeY: 0.3, smile: 0.2 },
  Surprised: { brows: 1, open: 0.55, wide: -0.5 },
  Afraid: { brows: 0.75, worry: 1, open: 0.3, wide: 0.5, smile: -0.7, teeth: 0.8 },
  Worried: { worry: 0.8, smile: -0.65, brows: 0.2 },
  Sad: { smile: -0.9, worry: 0.9, lids: 0.36, gazeY: -0.5 },
  Cross: { smile: -0.75, worry: -1, brows: -0.45, lids: 0.16, squint: 0.4 },
  Sulky: { smile: -0.6, worry: -0.55, lids: 0.3, gazeX: -0.6, wide: -0.5 },
  Tired: { lids: 0.62, brows: -0.35, smile: -0.2, gazeY: -0.3 },
  Sly: { smile: 0.5, worry: -0.7, lids: 0.38, gazeX: 0.65, squint: 0.3 },
}

/** The control for a feature, and the axis that counts. */
function controlFor({ controls }: Puppet, feature: Feature): { control: Control; axis: 'value' | 'x' | 'y' } | null {
  if (feature === 'gazeX' || feature === 'gazeY') {
    const pad = controls.find((c) => c.kind === 'pad' && /gaze|look/i.test(c.name))
    return pad ? { control: pad, axis: feature === 'gazeX' ? 'x' : 'y' } : null
  }
  const control = controls.find((c) => (c.voice ? c.voice === feature : c.kind !== 'pad' && NAMES[feature]?.test(c.name)))
  return control ? { control, axis: 'value' } : null
}

function moodPose(puppet: Puppet, mood: Mood): Record<string, number> {
  const out: Record<string, number> = {}
  for (const [feature, share] of Object.entries(mood) as [Feature, number][]) {
    const found = controlFor(puppet, feature)
    if (!found) continue
    const range = rangeAlong(found.control, found.axis)
    // Where it goes one way only, there is no other.
    const value = valueAtShare(range, share)
    if (value !== range.rest) out[controlChannel(found.control, found.axis)] = Math.round(1000 * value) / 1000
  }
  return out
}

const alike = (values: Readonly<Record<string, number>>): string => JSON.stringify(Object.entries(values).sort())

/** Moods for the controls of a face, each different from the others and from rest; none where it has no fitting control. */
export function proposedMoods(puppet: Puppet, prefix: string): SavedPose[] {
  const seen = new Set<string>()
  return Object.entries(MOODS).flatMap(([name, mood]): SavedPose[] => {
    const values = moodPose(puppet, mood)
    if (Object.keys(values).length === 0 || seen.has(alike(values))) return []
    seen.add(alike(values))
    return [{ id: `${prefix}-${name.toLowerCase()}`, name, values, face: 'mood' }]
  })
}

/** Shapes of all sounds for a mouth that is moved by controls; none for any other. */
export function proposedSounds(puppet: Puppet, prefix: string): SavedPose[] {
  const controls = puppet.controls.filter((c) => c.voice)
  return VISEMES.flatMap((viseme): SavedPose[] => {
    const values = Object.fromEntries(
      controls.flatMap((c) => {
        const value = voiced(c, viseme)
        return value === rangeAlong(c, 'value').rest ? [] : [[controlChannel(c), value] as const]
      }),
    )
    return Object.keys(values).length === 0 ? [] : [{ id: `${prefix}-${viseme}`, name: VISEME_INFO[viseme].label, values, face: viseme }]
  })
}

/** Edits that hang all moods and sounds on the board that are not there yet: moods by name, sounds by shape. */
export function boardEdits(puppet: Puppet, prefix: string): Edit[] {
  const has = (pose: SavedPose): boolean =>
    puppet.poses.some((p) => p.face === pose.face && (pose.face !== 'mood' || p.name.toLowerCase() === pose.name.toLowerCase()))
  return [...proposedMoods(puppet, prefix), ...proposedSounds(puppet, prefix)]
    .filter((pose) => !has(pose))
    .map((pose) => edit(keepPose, { pose }))
}

/** Poses of the board in the order of moods as they were kept, and of sounds as they are listed. */
export function boardOf({ poses }: Pick<Puppet, 'poses'>): { readonly moods: SavedPose[]; readonly sounds: SavedPose[] } {
  const place = (role: FaceRole | null): number => VISEMES.indexOf(role as never)
  return {
    moods: poses.filter((p) => p.face === 'mood'),
    sounds: poses.filter((p) => place(p.face) >= 0).sort((a, b) => place(a.face) - place(b.face)),
  }
}

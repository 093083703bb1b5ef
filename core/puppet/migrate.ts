/**
 * Reading puppets of older versions. Each migration takes the raw JSON of version n to n + 1; a document is
 * brought up step by step and then checked as the current version.
 */
import { parsePuppet, PuppetError } from './invariants'
import { CURRENT_VERSION, type Puppet } from './schema'
import { withUniqueIds } from './uniqueIds'
import { freeBone } from '../bones/new'
import { MOST_POSED } from '../poses/capability'
import { sure } from '../kernel/sure'

/** Brings a document of one version to the next, as plain JSON. */
export type Migration = (raw: Record<string, unknown>) => Record<string, unknown>

/** MIGRATIONS[n] takes version n to version n + 1. */
const MIGRATIONS: Readonly<Record<number, Migration>> = {
  1: fromVersion1,
  2: fromVersion2,
  3: fromVersion3,
  4: fromVersion4,
  5: fromVersion5,
  6: fromVersion6,
  7: fromVersion7,
  8: fromVersion8,
  9: fromVersion9,
  10: (raw) => ({ ...withUniqueIds(raw), version: 11 }),
  11: fromVersion11,
  // Version 13 knows clips.
  12: (raw) => ({ ...raw, version: 13, clips: [] }),
  // Controls may serve a clip; no older document has one that does.
  13: (raw) => ({ ...raw, version: 14 }),
  14: (raw) => ({ ...raw, version: 15, shadow: null }),
  15: fromVersion15,
  // Version 17 knows springs, what they keep out of, and wind.
  16: (raw) => ({ ...raw, version: 17, springs: [], colliders: [], wind: { direction: 0, strength: 0, gusts: 0.5, seed: 1 } }),
  // Version 18 knows legs that walk, and idle life.
  17: (raw) => ({ ...raw, version: 18, strides: [], idles: [] }),
}

type Json = Record<string, unknown>

/** Version 16 knows sounds in clips and lines that layers say, and what stands around the puppet. */
function fromVersion15(raw: Json): Json {
  const layer = (l: Json): Json => ({ ...l, spoken: null })
  const clip = (c: Json): Json => ({ ...c, tempo: null, sounds: [], layers: (c['layers'] as Json[]).map(layer) })
  return { ...raw, version: 16, clips: (raw['clips'] as Json[]).map(clip), stage: { ground: null, camera: null, scenery: [] } }
}

/** In version 12 alternates morph, which was called melting. */
function fromVersion11(raw: Json): Json {
  const part = (p: Json): Json => {
    if (!p['swap']) return p
    const { melt, ...swap } = p['swap'] as Json
    const { how, ...rest } = (melt ?? {}) as Json
    return { ...p, swap: { ...swap, morph: { how: how === 'melt' ? 'morph' : how, ...rest } } }
  }
  return { ...raw, version: 12, parts: Object.fromEntries(records(raw['parts']).map(([id, p]) => [id, part(p)])) }
}
const records = (value: unknown): [string, Json][] => Object.entries((value ?? {}) as Record<string, Json>)

/** Version 2 knows masks, blend modes, effects, lines below inks, labels of bones, and two ways to blend a bind. */
function fromVersion1(raw: Json): Json {
  const withMode = (bind: unknown): unknown => {
    const given = bind as Json | null
    return given?.['kind'] === 'blended' ? { ...given, mode: 'linear' } : given
  }
  const part = (p: Json): Json => ({ ...p, bind: withMode(p['bind']), masks: [], blend: 'normal', isolated: false, effect: null })
  const drawing = (d: Json): Json => ({ ...d, shapes: (d['shapes'] as Json[]).map((s) => ({ ...s, lineFirst: false })) })
  return {
    ...raw,
    version: 2,
    parts: Object.fromEntries(records(raw['parts']).map(([id, p]) => [id, part(p)])),
    drawings: Object.fromEntries(records(raw['drawings']).map(([id, d]) => [id, drawing(d)])),
    bones: Object.fromEntries(records(raw['bones']).map(([id, b]) => [id, { ...b, label: '' }])),
  }
}

/** Version 3 knows pictures, merged groups, tags, locks, comments, roles, sources, guides and a reference picture. */
function fromVersion2(raw: Json): Json {
  const part = (p: Json): Json => ({ ...p, merged: null, locked: false, tag: 0, comment: '', role: null, source: null })
  return {
    ...raw,
    version: 3,
    pictures: {},
    guides: [],
    reference: null,
    parts: Object.fromEntries(records(raw['parts']).map(([id, p]) => [id, part(p)])),
  }
}

/** Version 4 knows joints and twins. */
function fromVersion3(raw: Json): Json {
  const parts = Object.fromEntries(records(raw['parts']).map(([id, p]) => [id, { ...p, twin: null }]))
  return { ...raw, version: 4, joints: {}, parts }
}

/** Version 5 knows which view is shown, what differs in the others, sheets, and a palette. */
function fromVersion4(raw: Json): Json {
  const all = (family: string, more: Json): Json => Object.fromEntries(records(raw[family]).map(([id, r]) => [id, { ...r, ...more }]))
  return {
    ...raw,
    version: 5,
    palette: [],
    view: (raw['views'] as Json[])[0]?.['id'],
    parts: all('parts', { inViews: {}, sheet: null }),
    bones: all('bones', { inViews: {} }),
    joints: all('joints', { inViews: {} }),
  }
}

/** Version 6 knows targets, constraints, deformers, and bones that change their length. */
function fromVersion5(raw: Json): Json {
  const { influence: _, ...free } = freeBone()
  const bone = (b: Json): Json => ({ ...b, ...free })
  return {
    ...raw,
    version: 6,
    targets: {},
    constraints: [],
    presets: [],
    parts: Object.fromEntries(records(raw['parts']).map(([id, p]) => [id, { ...p, deformers: [] }])),
    bones: Object.fromEntries(records(raw['bones']).map(([id, b]) => [id, bone(b)])),
  }
}

/** Version 7 knows how far bones act, and deformers that act on some of the parts in theirs. */
function fromVersion6(raw: Json): Json {
  const whole = (owner: Json): Json =>
    owner['deformers'] === undefined ? owner : { ...owner, deformers: (owner['deformers'] as Json[]).map((d) => ({ ...d, only: null })) }
  const part = (p: Json): Json => ({ ...whole(p), inViews: Object.fromEntries(records(p['inViews']).map(([v, own]) => [v, whole(own)])) })
  const bone = (b: Json): Json => ({ ...b, influence: { radius: null, strength: 1 } })
  return {
    ...raw,
    version: 7,
    parts: Object.fromEntries(records(raw['parts']).map(([id, p]) => [id, part(p)])),
    bones: Object.fromEntries(records(raw['bones']).map(([id, b]) => [id, bone(b)])),
  }
}

/** Version 8 knows controls, responses and kept poses; a posed opacity is the opacity itself, not a share of it. */
function fromVersion7(raw: Json): Json {
  const parts = raw['parts'] as Record<string, Json>
  const pose = Object.entries((raw['pose'] ?? {}) as Record<string, number>).map(([address, value]) => {
    const [family, id, field] = address.split('/')
    const own = family === 'part' && field === 'opacity' ? Number(parts[sure(id)]?.['opacity'] ?? 1) : 1
    return [address, value * own]
  })
  return { ...raw, version: 8, controls: [], responses: [], poses: [], pose: Object.fromEntries(pose) as Json }
}

/** Version 9 knows swaps and flipbooks. */
function fromVersion8(raw: Json): Json {
  const part = (p: Json): Json => ({ ...p, swap: null, alternate: 0 })
  return { ...raw, version: 9, flipbooks: [], parts: Object.fromEntries(records(raw['parts']).map(([id, p]) => [id, part(p)])) }
}

/** Version 10 knows moods and sounds on a board, matches corrected by hand, and keys. */
function fromVersion9(raw: Json): Json {
  const part = (p: Json): Json => (p['swap'] ? { ...p, swap: { ...(p['swap'] as Json), matches: [] } } : p)
  return {
    ...raw,
    version: 10,
    cues: [],
    poses: (raw['poses'] as Json[]).map((pose) => ({ ...pose, face: null })),
    parts: Object.fromEntries(records(raw['parts']).map(([id, p]) => [id, part(p)])),
  }
}

/** A document that a newer version of the program wrote; it is sound, but not for this one. */
export class NewerVersionError extends PuppetError {
  constructor(readonly version: number) {
    const message = `has version ${version}, this build reads up to ${CURRENT_VERSION}; update the program, or export as ${CURRENT_VERSION}`
    super([{ path: 'puppet.json', message }])
  }
}

/** Reads a puppet of any known version. Throws PuppetError with what was found, what was expected and what to do. */
export function readPuppet(data: unknown, migrations: Readonly<Record<number, Migration>> = MIGRATIONS): Puppet {
  if (typeof data !== 'object' || data === null) throw new PuppetError([{ path: 'puppet.json', message: 'holds no puppet' }])
  const raw = data as Record<string, unknown>
  if (raw['format'] !== 'eager-marionette/puppet') {
    throw new PuppetError([{ path: 'puppet.json', message: 'is not marked as a puppet of this program' }])
  }
  const { pose } = raw
  // Counted before anything goes through them.
  if (typeof pose === 'object' && pose !== null && Object.keys(pose).length > MOST_POSED)
    throw new PuppetError([{ path: 'pose', message: `has more than ${MOST_POSED} values` }])
  return parsePuppet(migrated(raw, migrations))
}

function migrated(raw: Record<string, unknown>, migrations: Readonly<Record<number, Migration>>): Record<string, unknown> {
  const { version } = raw
  if (version === CURRENT_VERSION) return raw
  if (typeof version === 'number' && version > CURRENT_VERSION) throw new NewerVersionError(version)
  const migrate = typeof version === 'number' && Object.hasOwn(migrations, version) ? migrations[version] : undefined
  if (!migrate) throw new PuppetError([{ path: 'puppet.json', message: `has version ${shortly(version)}, which never was` }])
  let next: Record<string, unknown>
  try {
    next = migrate(raw)
  } catch (error) {
    // Migrations take what they know to be there; a document without it was never one of that version.
    if (error instanceof TypeError || error instanceof RangeError)
      throw new PuppetError([{ path: 'puppet.json', message: `is damaged: it does not fit version ${shortly(version)}` }])
    throw error
  }
  return migrated(next, migrations)
}

/** A value as it stands in a message. */
const shortly = (value: unknown): string => String(typeof value === 'object' ? typeof value : value).slice(0, 40)

/**
 * Version 11: an id stands for one thing only, whatever its kind. In older documents a part and a bone, say, may share one; the
 * later kind gets another, wherever it is named. Written for the document as it was in version 10, and not changed with it later.
 */
type Json = Record<string, unknown>

/** Kinds in the order in which they keep their ids. */
const KINDS = [
  'view',
  'part',
  'bone',
  'drawing',
  'picture',
  'joint',
  'target',
  'constraint',
  'deformer',
  'handle',
  'control',
  'response',
  'pose',
  'flipbook',
  'cue',
  'swatch',
] as const
type Kind = (typeof KINDS)[number]

/**
 * Where ids of a kind stand. A step is a field; `*` is each value of a list or record, `#` each key of a record. The first paths of a
 * kind are where its things are; the others name them.
 */
const DEFORMER = ['parts/*/deformers/*', 'parts/*/inViews/*/deformers/*'] as const
const PAINTS = ['drawings/*/shapes/*/ink/paint', 'drawings/*/shapes/*/line/paint'] as const
const INPUTS = ['responses/*/inputs/*/from', 'responses/*/inputs/*/to'] as const
const CHANGES = 'responses/*/stops/*/changes/*'
const OWN: Readonly<Record<Kind, readonly string[]>> = {
  view: ['views/*/id'],
  part: ['parts/#'],
  bone: ['bones/#'],
  drawing: ['drawings/#'],
  picture: ['pictures/#'],
  joint: ['joints/#'],
  target: ['targets/#'],
  constraint: ['constraints/*/id'],
  deformer: DEFORMER.map((d) => `${d}/id`),
  handle: DEFORMER.flatMap((d) => [`${d}/points/*/id`, `${d}/pins/*/id`]),
  control: ['controls/*/id'],
  response: ['responses/*/id'],
  pose: ['poses/*/id'],
  flipbook: ['flipbooks/*/id'],
  cue: ['cues/*/id'],
  swatch: ['palette/*/id'],
}
const NAMED: Readonly<Partial<Record<Kind, readonly string[]>>> = {
  view: [
    'view',
    'parts/*/art/#',
    'parts/*/inViews/#',
    'bones/*/inViews/#',
    'joints/*/inViews/#',
    'targets/*/inViews/#',
    'parts/*/sheet/cells/*/view',
  ],
  part: [
    'root',
    'parts/*/id',
    'parts/*/parent',
    'parts/*/children/*',
    'parts/*/bind/to',
    'parts/*/twin/of',
    'parts/*/masks/*/shape',
    'parts/*/sheet/whole/#',
    'parts/*/swap/matches/*/a',
    'parts/*/swap/matches/*/b',
    ...DEFORMER.map((d) => `${d}/only/*`),
    'joints/*/under',
    'joints/*/over',
    'controls/*/place/part',
    `${CHANGES}/part`,
  ],
  bone: [
    'bones/*/id',
    'bones/*/parent',
    'bones/*/children/*',
    'skeleton/*',
    ...['parts/*/bind', 'parts/*/inViews/*/bind'].flatMap((bind) => [`${bind}/bone`, `${bind}/bones/*`]),
    ...DEFORMER.map((d) => `${d}/bone`),
    'targets/*/parent',
    ...['bone', 'bones/*', 'from', 'level'].map((field) => `constraints/*/${field}`),
    'controls/*/bone',
    'responses/*/inputs/*/bone',
    ...INPUTS.map((spot) => `${spot}/bone`),
  ],
  drawing: ['drawings/*/id', ...PAINTS.map((paint) => `${paint}/drawing`), `${CHANGES}/drawing`],
  picture: ['pictures/*/id', 'parts/*/merged'],
  joint: ['joints/*/id'],
  target: [
    'targets/*/id',
    ...['target', 'targets/*', 'pole'].map((field) => `constraints/*/${field}`),
    ...INPUTS.map((spot) => `${spot}/target`),
  ],
  swatch: PAINTS.map((paint) => `${paint}/swatch`),
}
/** Where addresses of channels stand. */
const CHANNELS = [
  'pose/#',
  'poses/*/values/#',
  'controls/*/ties/*/channel',
  'responses/*/inputs/*/channel',
  `${CHANGES}/channel`,
  'flipbooks/*/channel',
  'cues/*/channel',
]
/** Kinds whose ids stand in addresses, by the family that they are of. */
const FAMILIES: Readonly<Record<string, Kind>> = {
  bone: 'bone',
  part: 'part',
  target: 'target',
  constraint: 'constraint',
  deformer: 'deformer',
  handle: 'handle',
  control: 'control',
}

type Change = (text: string) => string

/** A copy of a value with the texts at a path changed; what does not fit the path stays as it is. */
function at(value: unknown, path: readonly string[], change: Change): unknown {
  if (path.length === 0) return typeof value === 'string' ? change(value) : value
  if (typeof value !== 'object' || value === null) return value
  const [step, ...rest] = path as [string, ...string[]]
  if (Array.isArray(value)) return step === '*' ? value.map((v) => at(v, rest, change)) : value
  const entries = Object.entries(value)
  if (step === '#') return Object.fromEntries(entries.map(([key, v]) => [change(key), v]))
  if (step === '*') return Object.fromEntries(entries.map(([key, v]) => [key, at(v, rest, change)]))
  return Object.hasOwn(value, step) ? { ...value, [step]: at((value as Json)[step], rest, change) } : value
}

const changeAll = (raw: Json, paths: readonly string[], change: Change): Json =>
  paths.reduce<Json>((made, path) => at(made, path.split('/'), change) as Json, raw)

/** Ids of a kind, in order, each once for each place: those of deformers in several views of one part are one and the same. */
function idsOf(raw: Json, kind: Kind): Set<string> {
  const out = new Set<string>()
  changeAll(raw, OWN[kind], (id) => {
    out.add(id)
    return id
  })
  return out
}

/** Gives things another id where one of another kind has theirs. Lists in which one id stands twice are left to the check. */
export function withUniqueIds(raw: Json): Json {
  const taken = new Set<string>()
  const renamed = new Map<Kind, Map<string, string>>()
  const all = KINDS.map((kind) => [kind, idsOf(raw, kind)] as const)
  const inUse = new Set(all.flatMap(([, ids]) => [...ids]))
  for (const [kind, ids] of all) {
    const others = new Map<string, string>()
    for (const id of ids) {
      if (taken.has(id)) others.set(id, freeId(kind, id, inUse))
      taken.add(others.get(id) ?? id)
    }
    if (others.size > 0) renamed.set(kind, others)
  }
  let made = raw
  for (const [kind, others] of renamed) made = changeAll(made, [...OWN[kind], ...(NAMED[kind] ?? [])], (id) => others.get(id) ?? id)
  made = withArt(made, renamed)
  return renamed.size === 0 ? made : changeAll(made, CHANNELS, (address) => inAddress(address, renamed))
}

/** A part says whether it shows a drawing or a picture. */
function withArt(raw: Json, renamed: ReadonlyMap<Kind, ReadonlyMap<string, string>>): Json {
  if (!renamed.has('drawing') && !renamed.has('picture')) return raw
  const parts = Object.entries((raw['parts'] ?? {}) as Record<string, Json>).map(([id, part]) => {
    const shows = (part['content'] as Json | undefined)?.['kind'] === 'picture' ? 'picture' : 'drawing'
    const others = renamed.get(shows)
    return [id, others ? changeAll(part, ['art/*', 'sheet/whole/*'], (art) => others.get(art) ?? art) : part]
  })
  return { ...raw, parts: Object.fromEntries(parts) as Json }
}

function freeId(kind: Kind, id: string, inUse: Set<string>): string {
  const stem = `${kind}-${id}`.slice(0, 56)
  for (let n = 1; ; n++) {
    const made = n === 1 ? stem : `${stem}-${n}`
    if (inUse.has(made)) continue
    inUse.add(made)
    return made
  }
}

function inAddress(address: string, renamed: ReadonlyMap<Kind, ReadonlyMap<string, string>>): string {
  const [family = '', id = '', ...field] = address.split('/')
  const kind = Object.hasOwn(FAMILIES, family) ? FAMILIES[family] : undefined
  const other = kind && renamed.get(kind)?.get(id)
  if (other !== undefined) return [family, other, ...field].join('/')
  // Handles of a cage carry its id before their column and row.
  const [, cage, spot] = kind === 'handle' ? (/^(.*)(\.\d+\.\d+)$/.exec(id) ?? []) : []
  const moved = cage === undefined ? undefined : renamed.get('deformer')?.get(cage)
  return moved === undefined ? address : [family, `${moved}${spot}`, ...field].join('/')
}

/** Taking over a new version of an artwork file: the artwork changes, the rig stays. */
import { bindMesh, WeightsError } from '../binds/autoWeights'
import type { IdSource, PartId } from '../kernel/ids'
import { pictureOf } from '../parts/pictures'
import type { Drawing, Picture } from '../artwork/records'
import type { Part, Puppet } from '../puppet/schema'
import { renameDrawing } from '../artwork/rename'
import { drawingOf, partsBelow, restMatrix, withPatterns } from '../parts/tree'
import { ungroupParts } from '../parts/arrange'
import { applyEdits } from '../puppet/edit'
import { MOST_MASKS, setBlend, setEffect, setMasks } from '../layering/commands'
import { replaceArt, setSource } from '../parts/artCommands'
import { deletePart, movePart, renamePart } from '../parts/commands'
import { invert, multiply, placementOf } from '../maths/geometry/affine'
import { mapDrawing } from '../maths/geometry/shape'
import { INFLUENCES } from '../binds/skin'
import { samplerOf } from '../binds/field'
import { frameOf, movedPicture, type UpdateEntry } from './match'
import { edit, type Edit } from '../kernel/command'
import { EditError } from '../kernel/errors'
import type { Bind, WeightField } from '../binds/records'
import { bindHolder } from '../binds/tree'
import { setField } from '../binds/commands'
import { addArtwork } from '../puppet/artworkCommands'
import { nth, recordOf, sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'
import { followEdits } from './following'

/** A puppet with new artwork, and the edits that did it. */
export interface AppliedUpdate {
  readonly puppet: Puppet
  readonly edits: readonly Edit[]
  /** Names of parts that could not take their new artwork: groups that still have parts in them. */
  readonly left: readonly string[]
}

/**
 * The edits that take over the entries given; as one history entry they are one step.
 *
 * Parts keep their bones, binds, pivots, homes and poses. Weights of parts that bend go over to a region made from the
 * new artwork, by position.
 */
export function applyUpdate(
  puppet: Puppet,
  incoming: Puppet,
  all: readonly UpdateEntry[],
  ticked: ReadonlySet<UpdateEntry>,
  ids: IdSource,
): AppliedUpdate {
  const taken = all.filter((entry) => ticked.has(entry))
  const gone = taken.filter((entry) => entry.kind === 'gone')
  const updater = new Updater(puppet, incoming, all, new Set(gone.map((entry) => sure(entry.present))), ids)
  // What goes makes room: a group that became one drawing has to be empty for it.
  for (const entry of new Set([...gone, ...taken])) updater.take(entry)
  updater.finish()
  return { puppet: updater.puppet, edits: updater.edits, left: updater.left }
}

const NO_ART = { drawing: null, picture: null, patterns: [] }

class Updater {
  readonly edits: Edit[] = []
  puppet: Puppet
  /** Parts of the puppet that parts of the new version became or are. */
  private readonly counterpart = new Map<PartId, PartId>()
  private readonly touched = new Set<PartId>()
  /** Parts of the new version that were added. */
  private readonly arrived = new Set<PartId>()
  /** Names of parts whose new artwork could not be taken over. */
  readonly left: string[] = []
  private readonly view: string
  /** What the puppet calls the file. */
  private readonly file: string | null

  constructor(
    before: Puppet,
    private readonly incoming: Puppet,
    all: readonly UpdateEntry[],
    /** Parts to be taken away. */
    private readonly going: ReadonlySet<PartId>,
    private readonly ids: IdSource,
  ) {
    this.puppet = before
    this.view = before.view
    const known = all.find((e) => e.present !== null)
    this.file = (known && partOf(before, sure(known.present)).source?.file) ?? null
    this.counterpart.set(incoming.root, before.root)
    for (const { incoming: part, present } of all) if (part && present) this.counterpart.set(part, present)
  }

  private add(...more: Edit[]): void {
    this.puppet = applyEdits(this.puppet, more).puppet
    this.edits.push(...more)
  }

  take(entry: UpdateEntry): void {
    const { kind, present, incoming } = entry
    if (kind === 'added') return this.addPart(sure(incoming))
    if (kind === 'gone') return this.remove(sure(present))
    if (kind === 'changed' || kind === 'moved') this.replace(sure(present), sure(incoming))
    if (entry.renamed) this.rename(sure(present), sure(incoming))
  }

  private remove(part: PartId): void {
    // It may have gone with a group that it was in.
    if (!this.puppet.parts[part]) return
    this.touched.add(sure(partOf(this.puppet, part).parent))
    const stays = partsBelow(this.puppet, part).some((p) => !this.going.has(p.id))
    if (stays) this.dissolve(part)
    else this.add(edit(deletePart, { part }))
  }

  /** Takes a part away and leaves what is in it where it is. */
  private dissolve(part: PartId): void {
    for (const { id, masks } of Object.values(this.puppet.parts)) {
      const kept = id === part ? [] : masks.filter((m) => m.shape !== part)
      if (kept.length < masks.length) this.add(edit(setMasks, { part: id, masks: kept }))
    }
    const { effect, blend, content } = partOf(this.puppet, part)
    if (effect) this.add(edit(setEffect, { part, effect: null }))
    if (blend !== 'normal') this.add(edit(setBlend, { part, blend: 'normal' }))
    if (content.kind !== 'group') this.add(edit(replaceArt, { part, view: this.view, ...NO_ART }))
    this.add(edit(ungroupParts, { parts: [part] }))
  }

  private rename(present: PartId, incoming: PartId): void {
    const { name, source } = partOf(this.incoming, incoming)
    const old = partOf(this.puppet, present).source
    this.add(edit(renamePart, { part: present, name }))
    if (source && old) this.add(edit(setSource, { part: present, source: { ...source, file: old.file, place: old.place } }))
  }

  private replace(present: PartId, incoming: PartId): void {
    const old = partOf(this.puppet, present)
    const part = partOf(this.incoming, incoming)
    const map = frameOf(old, this.incoming, part)
    const art = this.artOf(part)
    const drawing = art.drawing && mapDrawing(art.drawing, map)
    const picture = art.picture && movedPicture(art.picture, map)
    const isFull = old.content.kind === 'group' && old.children.length > 0
    if (isFull && (drawing || picture)) return void this.left.push(old.name)
    this.add(edit(replaceArt, { part: present, view: this.view, drawing, picture, patterns: art.patterns }))
    this.touched.add(present)
  }

  /** What a part of the new version shows, under ids of its own. */
  private artOf(part: Part): { drawing: Drawing | null; picture: Picture | null; patterns: Drawing[] } {
    const picture = pictureOf(this.incoming, part)
    if (picture) return { drawing: null, picture: { ...picture, id: this.ids('picture') }, patterns: [] }
    const drawing = drawingOf(this.incoming, part)
    if (!drawing) return { drawing: null, picture: null, patterns: [] }
    const names = new Map([...withPatterns(this.incoming, [drawing.id])].map((id) => [id, this.ids('drawing')]))
    const renamed = (d: Drawing): Drawing => renameDrawing(d, (id) => sure(names.get(id)))
    const patterns = [...names.keys()].filter((id) => id !== drawing.id).map((id) => renamed(recordOf(this.incoming.drawings, id)))
    return { drawing: renamed(drawing), picture: null, patterns }
  }

  private addPart(incoming: PartId): void {
    const part = partOf(this.incoming, incoming)
    const parent = this.counterpart.get(sure(part.parent)) ?? this.puppet.root
    const target = this.puppet.parts[parent]?.content.kind === 'group' ? parent : this.puppet.root
    const id = this.ids('part')
    const { drawing, picture, patterns } = this.artOf(part)
    const back = invert(restMatrix(this.puppet, target))
    const shown = drawing ?? picture
    const added: Part = {
      ...part,
      source: part.source && { ...part.source, file: this.file ?? part.source.file },
      id,
      parent: null,
      children: [],
      bind: null,
      masks: [],
      merged: null,
      home: back ? placementOf(multiply(back, restMatrix(this.incoming, incoming)), part.pivot) : part.home,
      art: shown ? { [this.view]: shown.id } : {},
    }
    this.add(
      edit(addArtwork, {
        parent: target,
        parts: [added],
        drawings: [...patterns, ...(drawing ? [drawing] : [])],
        pictures: picture ? [picture] : [],
      }),
    )
    this.counterpart.set(incoming, id)
    this.arrived.add(incoming)
    this.add(edit(movePart, { part: id, parent: target, index: this.indexOf(part, target) }))
    this.touched.add(id)
  }

  /** Above the nearest of the layers below it that is in the same group of the puppet. */
  private indexOf(part: Part, parent: PartId): number {
    const siblings = partOf(this.incoming, sure(part.parent)).children
    const { children } = partOf(this.puppet, parent)
    for (let i = siblings.indexOf(part.id) - 1; i >= 0; i--) {
      const below = this.counterpart.get(nth(siblings, i))
      if (below !== undefined && children.includes(below)) return children.indexOf(below) + 1
    }
    return 0
  }

  /** What can only be said when all parts are there: masks by what was added, what new parts go with, and regions of binds over new artwork. */
  finish(): void {
    for (const part of Object.values(this.incoming.parts)) this.maskLike(part)
    const added = [...this.arrived].flatMap((id) => this.counterpart.get(id) ?? []).filter((id) => this.puppet.parts[id])
    this.add(...followEdits(this.puppet, added))
    this.renewFields()
  }

  /** Gives the counterpart of a part its masks that are new: all of a part that was added, else those by such parts. */
  private maskLike({ id, masks }: Part): void {
    const part = this.puppet.parts[this.counterpart.get(id) ?? '']
    const added = masks.flatMap((mask) => {
      const shape = this.counterpart.get(mask.shape)
      const isNew = this.arrived.has(id) || this.arrived.has(mask.shape)
      return isNew && shape !== undefined && this.puppet.parts[shape] ? [{ ...mask, shape }] : []
    })
    if (!part || added.length === 0) return
    const more = edit(setMasks, { part: part.id, masks: [...part.masks, ...added].slice(0, MOST_MASKS) })
    try {
      this.add(more)
    } catch (error) {
      // The rig may hang the masking part where it would mask itself; it then stays a part without a task.
      if (!(error instanceof EditError)) throw error
    }
  }

  private renewFields(): void {
    const holders = new Set([...this.touched].flatMap((id) => (this.puppet.parts[id] ? (bindHolder(this.puppet, id) ?? []) : [])))
    for (const { id, bind } of holders) {
      if (bind?.kind !== 'blended') continue
      const field = carriedField(this.puppet, id, bind)
      if (field) this.add(edit(setField, { part: id, field }))
    }
  }
}

type Blended = Extract<Bind, { kind: 'blended' }>

/** Weights below this are dropped from a row. */
const LEAST = 1e-4

/** The region of a bind's artwork with the weights of its present field, read at each new vertex; null where nothing shows. */
export function carriedField(puppet: Puppet, holder: PartId, bind: Blended): WeightField | null {
  const on = meshOf(puppet, holder, Math.max(120, bind.field.vertices.length / 2))
  if (!on) return null
  const n = on.vertices.length / 2
  const sampler = samplerOf(bind.field, bind.bones.length)
  const bones = new Int32Array(INFLUENCES * n)
  const weights = new Float64Array(INFLUENCES * n)
  const centres = new Float64Array(2 * n)
  const out: WeightField = { vertices: on.vertices, triangles: on.mesh.triangles, starts: [0], bones: [], weights: [] }
  for (let v = 0; v < n; v++) {
    sampler.sample(nth(on.vertices, 2 * v), nth(on.vertices, 2 * v + 1), v, bones, weights, centres)
    writeRow(bones.subarray(INFLUENCES * v, INFLUENCES * (v + 1)), weights.subarray(INFLUENCES * v, INFLUENCES * (v + 1)), out)
  }
  return out
}

function meshOf(puppet: Puppet, holder: PartId, wanted: number): ReturnType<typeof bindMesh> | null {
  try {
    return bindMesh(puppet, holder, wanted)
  } catch (error) {
    if (error instanceof WeightsError) return null
    throw error
  }
}

/** Adds a row with small weights left out, brought back to a sum of 1. */
function writeRow(bones: Int32Array, weights: Float64Array, out: WeightField): void {
  const kept = [...weights.keys()].filter((k) => nth(weights, k) > LEAST)
  const sum = kept.reduce((s, k) => s + nth(weights, k), 0)
  for (const k of kept) {
    out.bones.push(nth(bones, k))
    out.weights.push(nth(weights, k) / sum)
  }
  out.starts.push(out.bones.length)
}

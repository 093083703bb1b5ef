/**
 * All that answers to something in a puppet, made ready: controls with ties and responses in the order in which they act, and the
 * places of what they move: channels first, then shifts of points, then colours and line widths.
 */
import { responseOrder, isLate, movedByResponse } from './order'
import type { ChangeOf, Response } from './records'
import type { Puppet } from '../puppet/schema'
import type { BoneTable } from '../bones/table'
import type { ConstraintTable } from '../constraints/solve'
import type { ShapeGeometry } from '../artwork/flat/flat'
import { slotOfAddress, type Slots } from '../kernel/slots'
import { labOf } from '../maths/solve/oklab'
import { compileInput, type RigInput } from './inputs'
import { restColour, sizeOfLook, type PaintOverride } from './paintOverrides'
import { lookKey, recordedOf, type Places } from './recorded'
import { Correction, Pad, Ruler, type ReadyResponse } from './responding'
import type { CompiledResponse } from './compiled'
import { Tied } from './tied'
import type { ShiftPlace } from '../placement/bendStage'
import type { RigDrawing } from '../placement/drawing'

/** Responses of a puppet, compiled, in the order in which they act. */
export interface CompiledResponses {
  /** Channels, shifts and looks together. */
  readonly size: number
  /** How many may act: each remembers what it chose last under its number. */
  readonly most: number
  readonly list: readonly CompiledResponse[]
  readonly reshapes: readonly ShiftPlace[]
  readonly paintOverrides: readonly PaintOverride[]
  /** What paints of a shape are changed by, with their numbers among the looks. */
  readonly paintOverridesOf: ReadonlyMap<ShapeGeometry, readonly number[]>
  /** Whether anything of all this moves bones. */
  readonly movesBones: boolean
  /** Slots that something chooses for. */
  readonly chosen: Int32Array
}

interface Tables {
  readonly puppet: Puppet
  readonly slots: Slots
  readonly bones: BoneTable
  readonly constraints: ConstraintTable
  readonly drawings: readonly RigDrawing[]
  readonly parts: { readonly ids: readonly string[] }
}

/** Families of what bones are posed by: their own channels, and what leads them. */
const MOVERS = new Set(['stride', 'bone', 'target', 'constraint', 'spring'])
const familyOf = (address: string): string => address.slice(0, address.indexOf('/'))

/** Parts with those of their drawings whose points, or whose colours and line widths, responses change. */
export function respondingParts({ responses }: Pick<Puppet, 'responses'>, what: 'points' | 'paint'): Map<string, Set<string>> {
  const out = new Map<string, Set<string>>()
  for (const change of changesOf(responses)) {
    if (change.kind === 'channel' || change.kind === 'choice' || (change.kind === 'points') !== (what === 'points')) continue
    out.set(change.part, (out.get(change.part) ?? new Set()).add(change.drawing))
  }
  return out
}

const changesOf = (responses: readonly Response[]) => responses.flatMap((r) => r.stops).flatMap((s) => s.changes)

/** Whether responses or ties may change a field of a part. */
export function movesField({ responses, controls }: Pick<Puppet, 'responses' | 'controls'>, part: string, field: string): boolean {
  const address = `part/${part}/${field}`
  return (
    changesOf(responses).some((c) => (c.kind === 'channel' || c.kind === 'choice') && c.channel === address) ||
    controls.some((c) => c.ties.some((t) => t.channel === address))
  )
}

/** Compiles the responses of a puppet and the ties of its controls. */
export function compileResponses(tables: Tables): CompiledResponses {
  const { puppet, slots, drawings } = tables
  const order = responseOrder(puppet)
  if ('circle' in order) throw new Error(`${order.circle.join(', ')} wait for each other.`)
  let size = slots.rest.length
  const reshapes = drawings.flatMap((d, drawing): ShiftPlace[] => {
    if (!d.reshape) return []
    const place = { drawing, base: size, length: d.geometry.points.length }
    size += place.length
    return [place]
  })
  const looks = looksFor(tables, size)
  size += looks.reduce((sum, { look }) => sum + sizeOfLook(look.kind), 0)
  const places: Places = {
    ...{ puppet, slots },
    reshapes: new Map(
      reshapes.map((r) => [tables.parts.ids[drawings[r.drawing]!.part]!, { reshape: drawings[r.drawing]!.reshape!, base: r.base }]),
    ),
    looks: new Map(looks.map(({ key, look }) => [key, look])),
  }
  const list = order.flatMap((it, number): CompiledResponse[] => {
    if (it.kind === 'control') return [tiedControl(tables, it.of)]
    const made = respondingOf(tables, places, it.of, number)
    return made ? [made] : []
  })
  return {
    ...{ size, most: order.length, list, reshapes, paintOverrides: looks.map((l) => l.look) },
    paintOverridesOf: byShape(looks.map((l) => l.look)),
    movesBones: list.some((one) => one.movesBones),
    chosen: chosenSlots(tables),
  }
}

const inputOf =
  (tables: Tables) =>
  (channel: string): RigInput | null =>
    compileInput(tables, { kind: 'channel', channel })

function tiedControl(tables: Tables, control: Puppet['controls'][number]): Tied {
  const late = control.bone !== null && isLate(tables.puppet, { kind: 'channel', channel: `bone/${control.bone}/angle` })
  const moves = control.ties.some((t) => MOVERS.has(familyOf(t.channel)))
  return new Tied(tables.slots, control, inputOf(tables), late, moves)
}

/** A response ready to act; null where it is muted, listens to what is not there, or has nothing recorded. */
function respondingOf(tables: Tables, places: Places, source: Response, number: number): CompiledResponse | null {
  const inputs = source.inputs.map((input) => compileInput(tables, input))
  if (source.muted || source.stops.length === 0 || inputs.some((i) => i === null)) return null
  const own: ReadyResponse = {
    ...{ source, inputs: inputs as RigInput[], number },
    recorded: source.stops.map((stop) => recordedOf(places, stop)),
    // Of equals the one that is listed first decides.
    rank: source.priority * 4096 - tables.puppet.responses.indexOf(source),
    isLate: source.inputs.some((input) => isLate(tables.puppet, input)),
    movesBones: [...movedByResponse(source)].some((address) => MOVERS.has(familyOf(address))),
  }
  return source.kind === 'ruler' ? new Ruler(own) : source.kind === 'pad' ? new Pad(own) : new Correction(own)
}

/** Colours and widths that some response changes, each once. */
function looksFor({ puppet, drawings, parts }: Tables, first: number): { key: string; look: PaintOverride }[] {
  const out = new Map<string, PaintOverride>()
  let base = first
  const changes = changesOf(puppet.responses).filter(
    (c): c is ChangeOf<'paint'> | ChangeOf<'width'> => c.kind === 'paint' || c.kind === 'width',
  )
  if (changes.length === 0) return []
  const shown = new Map(drawings.map((d, k) => [parts.ids[d.part]!, k]))
  for (const c of changes) {
    const d = shown.get(c.part)
    const source = puppet.drawings[c.drawing]
    if (d === undefined || drawings[d]!.drawing.id !== c.drawing || !source) continue
    const [kind, of, stop] = c.kind === 'paint' ? (['colour', c.of, c.stop] as const) : (['width', 'line', null] as const)
    const key = lookKey(c.part, c.drawing, c.shape, of, stop, kind)
    const rest = c.kind === 'paint' ? restColour(source, c) : '#000000'
    if (out.has(key) || rest === null) continue
    const shapes = drawings[d]!.geometry.shapes.filter((g) => g.shape.id === c.shape)
    out.set(key, { drawing: d, shapes, of, stop, kind, base, rest: labOf(rest) })
    base += sizeOfLook(kind)
  }
  return [...out].map(([key, look]) => ({ key, look }))
}

function byShape(looks: readonly PaintOverride[]): Map<ShapeGeometry, number[]> {
  const out = new Map<ShapeGeometry, number[]>()
  looks.forEach((look, k) => {
    for (const shape of look.shapes) out.set(shape, [...(out.get(shape) ?? []), k])
  })
  return out
}

function chosenSlots({ puppet, slots }: Tables): Int32Array {
  const addresses = new Set(changesOf(puppet.responses).flatMap((c) => (c.kind === 'choice' ? [c.channel] : [])))
  return Int32Array.from([...addresses].map((address) => slotOfAddress(slots, address)).filter((slot) => slot >= 0))
}

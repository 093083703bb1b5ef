/** What zod cannot say of a puppet: that its trees are trees and that every id it mentions exists. */
import { answerCircle } from './answering'
import { channelOf, deformersInViews } from './channels'
import { inputsOf } from './effects'
import { maskCycle } from './masks'
import { attachCycle, constraintCycle } from './order'
import { type Bind, type Part, movedBones, Puppet, targetsOf } from './schema'
import { bonesOfBind } from './tree'
import { costProblems } from './soundness/costs'
import { doubledIds, keyProblems } from './soundness/ids'
import { patternCycle } from './soundness/patterns'
import type { Problem } from './soundness/problem'
import { answerProblems } from './soundness/responses'
import { MOST_POSED, treesProblems, twinProblems } from './soundness/trees'
import { shownView } from './views'

export type { Problem } from './soundness/problem'

/**
 * All breaches of the invariants; empty for a sound puppet. Assumes that the schema holds.
 *
 * What walks the document comes after what makes walking safe: first keys and trees, then what refers to something, then what
 * could wait for itself or cost too much.
 *
 * @param changed fields that are other than in a puppet that was sound: what depends on none of them is not checked again
 */
export function brokenInvariants(puppet: Puppet, changed?: ReadonlySet<keyof Puppet>): Problem[] {
  for (const stage of STAGES) {
    const found = stage.flatMap(([check, ...needs]) => (!changed || needs.some((n) => changed.has(n)) ? check(puppet) : []))
    if (found.length > 0) return found
  }
  return []
}

type Check = (puppet: Puppet) => readonly Problem[]
/** A check with the fields that it looks at. */
type Guarded = readonly [Check, ...(keyof Puppet)[]]

/** More than can be meant. */
const sizeProblems: Check = ({ pose }) =>
  Object.keys(pose).length > MOST_POSED ? [{ path: 'pose', message: `has more than ${MOST_POSED} values` }] : []

/** What channels are there depends on these. */
const POSED = ['parts', 'bones', 'targets', 'constraints', 'controls', 'views'] as const
const RECORDS = ['parts', 'bones', 'drawings', 'pictures', 'joints', 'targets'] as const
const LISTS = ['views', 'palette', 'constraints', 'controls', 'responses', 'poses', 'flipbooks', 'cues'] as const

const STAGES: readonly (readonly Guarded[])[] = [
  [
    [keyProblems, ...RECORDS],
    [doubledIds, ...RECORDS, ...LISTS],
    [treesProblems, 'parts', 'root', 'bones', 'skeleton'],
    [twinProblems, 'parts'],
    [sizeProblems, 'pose'],
  ],
  [
    [viewProblems, 'views', 'view', 'pose', 'parts', 'bones', 'joints', 'targets'],
    [partProblems, 'parts', 'views', 'drawings', 'pictures'],
    [flipbookProblems, 'flipbooks', ...POSED],
    [bindProblems, 'parts', 'bones'],
    [targetProblems, 'targets', 'bones'],
    [constraintProblems, 'constraints', 'bones', 'targets'],
    [deformerProblems, 'parts', 'bones'],
    [layerProblems, 'parts'],
    [patternProblems, 'drawings'],
    [poseProblems, 'pose', ...POSED],
    [pictureProblems, 'pictures'],
    [jointProblems, 'joints', 'parts'],
    [paletteProblems, 'palette', 'drawings'],
    [answerProblems, 'responses', 'poses', 'cues', 'drawings', ...POSED],
  ],
  [
    [maskProblems, 'parts'],
    [patternCircles, 'drawings'],
    [attachProblems, 'parts'],
    [constraintCircles, 'constraints', 'bones', 'targets'],
    [costProblems, 'parts', 'drawings'],
  ],
  // What moves what can only be followed where constraints have an order.
  [[answerCircles, 'responses', 'controls', 'constraints', 'bones', 'targets']],
]

function maskProblems(puppet: Puppet): Problem[] {
  const masked = maskCycle(puppet)
  return masked === null ? [] : [{ path: 'parts', message: `has "${masked}", which masks itself or is masked by masks without end` }]
}

const PAINTED = 'is painted with itself, or with drawings in drawings without end'

function patternCircles(puppet: Puppet): Problem[] {
  return patternCycle(puppet).map((id) => ({ path: `drawings.${id}`, message: PAINTED }))
}

function attachProblems(puppet: Puppet): Problem[] {
  const attached = attachCycle(puppet)
  return attached === null ? [] : [{ path: `parts.${attached}.bind`, message: 'hangs on itself' }]
}

function constraintCircles(puppet: Puppet): Problem[] {
  const constraint = constraintCycle(puppet)
  return constraint === null ? [] : [{ path: `constraints.${constraint}`, message: 'waits for itself' }]
}

function answerCircles(puppet: Puppet): Problem[] {
  const circle = puppet.responses.length + puppet.controls.length > 0 ? answerCircle(puppet) : null
  return circle === null ? [] : [{ path: 'responses', message: circle }]
}

/** Joints are between two parts that exist. */
function jointProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const { id, under, over } of Object.values(puppet.joints)) {
    const path = `joints.${id}`
    for (const part of [under, over]) if (!puppet.parts[part]) out.push({ path, message: `joins the missing part "${part}"` })
    if (under === over) out.push({ path, message: 'joins a part to itself' })
  }
  return out
}

interface Kept {
  readonly id: string
  readonly inViews: Readonly<Record<string, unknown>>
}

/** Views have ids of their own, one of them is shown, and nothing is kept aside for any other than the rest of them. */
function viewProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  const views = new Set(puppet.views.map((v) => v.id))
  if (!views.has(puppet.view)) out.push({ path: 'view', message: `is "${puppet.view}", which is no view of it` })
  else if (puppet.view !== shownView(puppet)) out.push({ path: 'view', message: 'is not the one that the pose shows' })
  for (const { id, inViews } of [puppet.parts, puppet.bones, puppet.joints, puppet.targets].flatMap((r) => Object.values<Kept>(r)))
    for (const view of Object.keys(inViews))
      if (!views.has(view) || view === puppet.view)
        out.push({ path: `${id}.inViews`, message: views.has(view) ? 'keeps aside what is shown' : `knows no view "${view}"` })
  for (const { id, sheet } of Object.values(puppet.parts))
    for (const { view } of sheet?.cells ?? [])
      if (!views.has(view)) out.push({ path: `parts.${id}.sheet`, message: `has a cell for "${view}", which is no view` })
  return out
}

function partProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  const views = new Set(puppet.views.map((v) => v.id))
  for (const part of Object.values(puppet.parts)) {
    if (part.merged !== null && (part.content.kind !== 'group' || !puppet.pictures[part.merged]))
      out.push({ path: `parts.${part.id}.merged`, message: 'is merged into a picture that is not there' })
    out.push(...swapProblems(puppet, part))
    for (const art of Object.values(part.sheet?.whole ?? {}))
      if (!puppet.drawings[art] && !puppet.pictures[art])
        out.push({ path: `parts.${part.id}.sheet`, message: `was cut from the missing artwork "${art}"` })
    for (const [view, art] of Object.entries(part.art)) {
      if (!views.has(view)) out.push({ path: `parts.${part.id}.art`, message: `knows no view "${view}"` })
      const exists = part.content.kind === 'picture' ? puppet.pictures[art] : puppet.drawings[art]
      if (!exists) out.push({ path: `parts.${part.id}.art.${view}`, message: `shows the missing ${part.content.kind} "${art}"` })
    }
  }
  return out
}

/** Alternates have numbers of their own, and only they have. */
function swapProblems({ parts }: Puppet, { id, swap, content, children }: Part): Problem[] {
  const path = `parts.${id}.swap`
  const numbers = children.flatMap((child) => (parts[child] ? [parts[child].alternate] : []))
  if (!swap) return numbers.some((n) => n !== 0) ? [{ path, message: 'is none, and parts in it have numbers of alternates' }] : []
  if (content.kind !== 'group') return [{ path, message: 'is set on a part that is no group' }]
  if (numbers.includes(0) || new Set(numbers).size < numbers.length)
    return [{ path, message: 'has alternates without numbers of their own' }]
  return []
}

/** Flipbooks turn the pages of channels that are there. */
function flipbookProblems(puppet: Puppet): Problem[] {
  const { flipbooks } = puppet
  const out: Problem[] = []
  for (const { id, channel } of flipbooks)
    if (!channelOf(puppet, channel)) out.push({ path: `flipbooks.${id}`, message: `turns the pages of "${channel}", which is no channel` })
  return out
}

/** Swatches have ids of their own, and what follows one exists and shows its colour. */
function paletteProblems({ palette, drawings }: Puppet): Problem[] {
  const out: Problem[] = []
  const colours = new Map(palette.map((s) => [s.id, s.colour]))
  for (const { id, shapes } of Object.values(drawings))
    for (const paint of shapes.flatMap((s) => [s.ink?.paint, s.line?.paint])) {
      if (paint?.kind !== 'flat' || paint.swatch === undefined) continue
      const colour = colours.get(paint.swatch)
      if (colour === undefined) out.push({ path: `drawings.${id}`, message: `follows the missing swatch "${paint.swatch}"` })
      else if (colour !== paint.colour)
        out.push({ path: `drawings.${id}`, message: `shows another colour than its swatch "${paint.swatch}"` })
    }
  return out
}

function pictureProblems(puppet: Puppet): Problem[] {
  return Object.values(puppet.pictures)
    .filter(({ mesh }) => mesh.triangles.length % 3 !== 0 || mesh.triangles.some((v) => 2 * v >= mesh.vertices.length))
    .map(({ id }) => ({ path: `pictures.${id}.mesh`, message: 'has a triangle with a missing vertex' }))
}

function layerProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const { id, masks, effect } of Object.values(puppet.parts)) {
    for (const { shape } of masks)
      if (!puppet.parts[shape]) out.push({ path: `parts.${id}.masks`, message: `is masked by the missing part "${shape}"` })
    effect?.steps.forEach((step, at) => {
      if (inputsOf(step).some((i) => typeof i === 'number' && i >= at))
        out.push({ path: `parts.${id}.effect.steps.${at}`, message: 'works on a step that has not been made yet' })
    })
  }
  return out
}

/** Patterns must exist. */
function patternProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const { id, shapes } of Object.values(puppet.drawings)) {
    for (const paint of shapes.flatMap((s) => [s.ink?.paint, s.line?.paint])) {
      if (paint?.kind !== 'pattern') continue
      if (!puppet.drawings[paint.drawing])
        out.push({ path: `drawings.${id}`, message: `is painted with the missing drawing "${paint.drawing}"` })
    }
  }
  return out
}

/** Binds of all parts, in all views. */
const bindsIn = ({ parts }: Puppet): (readonly [Part, Bind])[] =>
  Object.values(parts).flatMap((part) =>
    [part.bind, ...Object.values(part.inViews).map((own) => own.bind)].flatMap((bind) => (bind ? [[part, bind] as const] : [])),
  )

function bindProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const [part, bind] of bindsIn(puppet)) {
    const path = `parts.${part.id}.bind`
    if (bind.kind === 'attached') {
      if (!puppet.parts[bind.to]) out.push({ path, message: `hangs on the missing part "${bind.to}"` })
      continue
    }
    for (const bone of bonesOfBind(bind)) {
      if (!puppet.bones[bone]) out.push({ path, message: `follows the missing bone "${bone}"` })
    }
    if (bind.kind === 'blended') out.push(...fieldProblems(bind, path))
  }
  return out
}

function targetProblems(puppet: Puppet): Problem[] {
  return Object.values(puppet.targets)
    .filter((t) => t.parent !== null && !puppet.bones[t.parent])
    .map((t) => ({ path: `targets.${t.id}`, message: `hangs from the missing bone "${t.parent}"` }))
}

/** Constraints move bones that exist, along chains that are chains, after targets that exist, and none waits for itself. */
function constraintProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const c of puppet.constraints) {
    const path = `constraints.${c.id}`
    const bones = c.kind === 'copy' ? [c.bone, c.from] : movedBones(c)
    for (const bone of bones) if (!puppet.bones[bone]) out.push({ path, message: `moves the missing bone "${bone}"` })
    for (const target of targetsOf(c)) if (!puppet.targets[target]) out.push({ path, message: `looks for the missing target "${target}"` })
    if ((c.kind === 'reach' || c.kind === 'path') && c.bones.some((b, i) => i > 0 && puppet.bones[b]?.parent !== c.bones[i - 1]))
      out.push({ path, message: 'moves bones that do not hang one from the other' })
  }
  return out
}

/** Deformers and their handles have ids of their own and go along with bones that exist; meshes hold together. */
function deformerProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const part of Object.values(puppet.parts))
    for (const d of deformersInViews(part)) {
      const path = `parts.${part.id}.deformers.${d.id}`
      if (d.bone !== null && !puppet.bones[d.bone]) out.push({ path, message: `goes along with the missing bone "${d.bone}"` })
      for (const p of d.only ?? []) if (!puppet.parts[p]) out.push({ path, message: `acts on the missing part "${p}"` })
      if (d.kind !== 'pins') continue
      const n = d.vertices.length / 2
      if (d.triangles.length === 0) out.push({ path, message: 'has no mesh for its pins' })
      if (d.triangles.length % 3 !== 0 || d.triangles.some((v) => v >= n))
        out.push({ path, message: 'has a triangle with a missing vertex' })
      if (d.stiffness.length !== n) out.push({ path, message: 'has stiffness that does not fit its vertices' })
    }
  return out
}

type Blended = Extract<Bind, { kind: 'blended' }>

/** What was found in weights before: binds that did not change are not gone through again at each edit. */
const known = new WeakMap<Blended, Problem[]>()

function fieldProblems(bind: Blended, path: string): Problem[] {
  let found = known.get(bind)
  if (!found) known.set(bind, (found = findFieldProblems(bind)))
  return found.map(({ message }) => ({ path, message }))
}

function findFieldProblems(bind: Blended): Problem[] {
  const out: Problem[] = []
  const path = ''
  const { field, bones, madeAt } = bind
  const n = field.vertices.length / 2
  if (madeAt.length !== 4 * bones.length) out.push({ path, message: 'does not say where its bones were' })
  if (field.starts.length !== n + 1 || field.starts[n] !== field.bones.length || field.bones.length !== field.weights.length) {
    return [...out, { path, message: 'has weights that do not fit its vertices' }]
  }
  if (field.starts[0] !== 0 || field.starts.some((start, i) => i > 0 && start < field.starts[i - 1]!))
    return [...out, { path, message: 'has weights that are not in order' }]
  if (
    field.vertices.length % 2 !== 0 ||
    field.triangles.length === 0 ||
    field.triangles.length % 3 !== 0 ||
    field.triangles.some((v) => v >= n)
  )
    out.push({ path, message: 'has a triangle with a missing vertex' })
  if (field.bones.some((b) => b >= bones.length)) out.push({ path, message: 'has a weight for a missing bone' })
  for (let i = 0; i < n; i++) {
    let sum = 0
    for (let k = field.starts[i]!; k < field.starts[i + 1]!; k++) sum += field.weights[k]!
    if (Math.abs(sum - 1) > 1e-6) return [...out, { path, message: `has weights at vertex ${i} that sum to ${sum}, not 1` }]
  }
  return out
}

function poseProblems(puppet: Puppet): Problem[] {
  return Object.keys(puppet.pose)
    .filter((address) => !channelOf(puppet, address))
    .map((address) => ({ path: `pose.${address}`, message: 'poses a channel that does not exist' }))
}

/** A puppet that does not hold together; `problems` lists why, the message quotes the first. */
export class PuppetError extends Error {
  constructor(readonly problems: readonly Problem[]) {
    const first = problems[0]
    const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : ''
    super(first ? `${first.path} ${first.message}${more}` : 'the puppet is not valid')
  }
}

/** Checks unknown data at a border and returns it as a puppet. Throws PuppetError. */
export function parsePuppet(data: unknown): Puppet {
  const parsed = Puppet.safeParse(data)
  if (!parsed.success) {
    throw new PuppetError(parsed.error.issues.map((i) => ({ path: i.path.join('.') || 'puppet', message: i.message })))
  }
  const problems = brokenInvariants(parsed.data)
  if (problems.length > 0) throw new PuppetError(problems)
  return parsed.data
}

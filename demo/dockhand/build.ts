/** A Dockhand, cut from one flat sheet of three views through the same commands that the interface uses. */
import { sequentialIds } from '@marionette/core/kernel/ids'
import type { Part, Puppet, Vec } from '@marionette/core/puppet/schema'
import { restMatrix } from '@marionette/core/parts/tree'
import { viewValue } from '@marionette/core/views/views'
import { bindWhole } from '@marionette/core/binds/commands'
import { addBone, setBoneEnds, setLimits } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { sendPiece } from '@marionette/core/cutting/commands'
import { addJoint, changeArt, setJoint } from '@marionette/core/joints/commands'
import { movePart, renamePart, setHome, setPivot, showPart } from '@marionette/core/parts/commands'
import { renamePuppet, setNote } from '@marionette/core/puppet/puppetCommands'
import { setPose } from '@marionette/core/poses/commands'
import { splitSheet } from '@marionette/core/cutting/sheetCommands'
import { makeTwin } from '@marionette/core/twins/commands'
import { setViewArt } from '@marionette/core/views/commands'
import { apply, invert } from '@marionette/core/maths/geometry/affine'
import { foreignArea } from '@marionette/core/artwork/islands'
import { combine, type Area } from '@marionette/core/maths/geometry/booleans'
import { mapPath } from '@marionette/core/maths/geometry/path'
import type { CapPieces } from '@marionette/core/joints/jointCaps'
import { radiusAcross, rimsOf } from '@marionette/core/joints/proposeJoints'
import { cappedArt } from '@marionette/formats/cutting/caps'
import { cutArt } from '@marionette/formats/cutting/cut'
import { filledArt } from '@marionette/formats/cutting/layers'
import { decodePng } from '@marionette/formats/pixels'
import { cutSheet } from '@marionette/formats/cutting/sheet'
import { readPuppetFile } from '@marionette/formats/read'
import { armAreas, hiddenOf, legAreas, onCanvas, seenOf, UNIT, VIEW_CUTS, type Limb, type Spot, type ViewCuts } from './cuts'
import { withSimpleFace } from './face'
import { withStride, withWalk } from '../strides'
import { viewChannel } from '@marionette/core/views/channels'
import type { Demo } from '../demo'
import { nth, recordOf, sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'
import { partOf } from '@marionette/core/parts/lookup'

type ViewName = keyof typeof VIEW_CUTS
const VIEWS = Object.keys(VIEW_CUTS) as ViewName[]
const CANVAS = { width: 520, height: 760 }
const STANDS: Vec = { x: 260, y: 712 }

/** Limits of joints, degrees to both sides. */
const LIMITS = { shoulder: 70, elbow: 55, wrist: 30, hip: 45, knee: 45, ankle: 25, neck: 18 }
/** Radius of the round end at each joint of a limb, beside half the limb's breadth: under a boot it is a little slimmer. */
const ROUND = { arm: [1, 1, 0.92], leg: [1, 1, 0.9] }
/** How far the mesh of a picture reaches beyond what is painted, px. */
const MARGIN = 1.5
/** The far limb of the side view stands a little aside, px. */
const FAR = { x: 9, y: -3 }
const ARM = ['Upper arm', 'Forearm', 'Hand'] as const
const LEG = ['Thigh', 'Shin', 'Boot'] as const

/** Parts from the bottom to the top in each view. */
const ORDERS: Readonly<Record<ViewName, readonly string[]>> = {
  front: [...sided('Shin', 'Thigh', 'Boot'), ...sided('Hand'), 'Jersey', ...sided('Forearm', 'Upper arm'), 'Head'],
  'three-quarter': [
    ...on('left', 'Shin', 'Thigh', 'Boot', 'Hand', 'Forearm', 'Upper arm'),
    ...on('right', 'Shin', 'Thigh', 'Boot'),
    'Jersey',
    ...on('right', 'Hand', 'Forearm', 'Upper arm'),
    'Head',
  ],
  side: [
    ...on('left', 'Hand', 'Forearm', 'Upper arm', 'Shin', 'Thigh', 'Boot'),
    ...on('right', 'Shin', 'Thigh', 'Boot'),
    'Jersey',
    'Head',
    ...on('right', 'Hand', 'Forearm', 'Upper arm'),
  ],
}

function on(side: string, ...names: readonly string[]): string[] {
  return names.map((n) => `${n} ${side}`)
}
function sided(...names: readonly string[]): string[] {
  return names.flatMap((n) => on('left', n).concat(on('right', n)))
}

/** A puppet in the making, with what a person at the Parts bench does to it. */
class Workshop {
  private made = 0
  readonly assets: Map<string, Uint8Array>

  constructor(
    public puppet: Puppet,
    assets: ReadonlyMap<string, Uint8Array>,
  ) {
    this.assets = new Map(assets)
  }

  private readonly bytes = (hash: string): Uint8Array | undefined => this.assets.get(hash)

  do: <A>(...args: Parameters<typeof run<A>> extends [Puppet, ...infer R] ? R : never) => void = (what, args) => {
    this.puppet = run(this.puppet, what, args)
  }

  /** The part of a name; throws where there is none. */
  part(name: string): Part {
    return sure(this.find(name), `“${name}”`)
  }

  private find(name: string): Part | undefined {
    return Object.values(this.puppet.parts).find((p) => p.name === name)
  }

  show(view: ViewName): void {
    this.do(setPose, { values: { [viewChannel(this.puppet)]: viewValue(this.puppet, view) } })
  }

  /** Cuts an area of the canvas out of the sheet, which stays whole, and sends it to a part. */
  cut(area: Area, name: string): void {
    const { puppet } = this
    const sheet = this.part('Sheet')
    const art = recordOf(sheet.art, puppet.view)
    const cut = cutArt(puppet, art, this.ownIn(art, this.inPart(sheet, area)), `piece-${++this.made}`, this.bytes, true)
    for (const [hash, png] of cut.assets) this.assets.set(hash, png)
    const known = this.find(name)
    const to = known ? { kind: 'part' as const, part: known.id } : { kind: 'new' as const, id: idOf(name), name, role: null }
    this.do(sendPiece, { source: sheet.id, view: puppet.view, piece: sure(cut.piece), rest: null, to })
  }

  /** An area without slices of what is beside. */
  private ownIn(art: string, area: Area): Area {
    const { asset, x, y, scale } = recordOf(this.puppet.pictures, art)
    const inPixels = { ...area, paths: area.paths.map((p) => mapPath(p, [1 / scale, 0, 0, 1 / scale, -x / scale, -y / scale])) }
    const foreign = foreignArea(decodePng(sure(this.bytes(asset)), 'The sheet'), inPixels)
    if (!foreign) return area
    const back = foreign.paths.map((p) => mapPath(p, [scale, 0, 0, scale, x, y]))
    return { paths: combine(area, { ...foreign, paths: back }, 'subtract'), rule: 'nonzero' }
  }

  /** Fills what other parts hid of a part. */
  fill(name: string, area: Area): void {
    const part = this.part(name)
    this.take(sure(filledArt(this.puppet, recordOf(part.art, this.puppet.view), this.inPart(part, area), this.bytes)))
  }

  /** Gives a joint its round ends. The Dockhand has no outlines: nothing is dark enough to be one. */
  cap(joint: string, pieces: CapPieces): void {
    const capped = cappedArt(this.puppet, recordOf(this.puppet.joints, joint), this.bytes, { threshold: 0, pieces })
    this.take({ drawing: null, picture: null, assets: capped.assets })
    this.do(changeArt, { drawings: [...capped.drawings], pictures: [...capped.pictures] })
  }

  private take({ picture, assets }: ReturnType<typeof filledArt> & object): void {
    for (const [hash, png] of assets) this.assets.set(hash, png)
    if (picture) this.do(changeArt, { drawings: [], pictures: [picture] })
  }

  private inPart(part: Part, area: Area): Area {
    const back = sure(invert(restMatrix(this.puppet, part.id)))
    return { ...area, paths: area.paths.map((p) => mapPath(p, back)) }
  }

  /** Moves the spot where a part turns. */
  pivot(name: string, at: Vec): void {
    const part = this.part(name)
    this.do(setPivot, { part: part.id, pivot: apply(sure(invert(restMatrix(this.puppet, part.id))), at) })
  }

  /** Half the breadth of a piece and of the one that it hangs from, where its bone begins. */
  breadthAt(name: string, above: string): number {
    const [own, upper] = [name, above].map((n) => rimsOf(this.puppet, this.part(n).id))
    return radiusAcross(this.puppet, sure(own), sure(upper), boneOf(this.puppet, this.boneOf(name))) - MARGIN
  }

  /** Joins two parts, or moves their joint where they are joined already. */
  join(under: string, over: string, at: Vec, radius: number): string {
    const [a, b] = [this.part(under).id, this.part(over).id]
    const known = Object.values(this.puppet.joints).find((j) => [j.under, j.over].includes(a) && [j.under, j.over].includes(b))
    const id = known?.id ?? `${idOf(over)}-on-${idOf(under)}`
    if (known) this.do(setJoint, { joint: id, at, radius })
    else this.do(addJoint, { id, under: a, over: b, at, radius })
    return id
  }

  boneOf(name: string): string {
    return Object.values(this.puppet.bones).find((b) => b.name === name)?.id ?? `bone-${idOf(name)}`
  }

  /** Draws a bone, or puts it where it lies in the shown view. */
  bone(name: string, parent: string | null, start: Vec, end: Vec, limit: number): void {
    const id = this.boneOf(name)
    if (this.puppet.bones[id]) return this.do(setBoneEnds, { bones: [{ bone: id, start, end }] })
    this.do(addBone, { id, name, parent: parent && this.boneOf(parent), start, end })
    if (limit > 0) this.do(setLimits, { bone: id, limits: { min: -limit, max: limit } })
  }

  /** Puts parts in an order, from the bottom to the top; the sheet stays below. */
  order(names: readonly string[]): void {
    for (const [i, name] of names.entries()) this.do(movePart, { part: this.part(name).id, parent: this.puppet.root, index: i + 1 })
  }
}

const idOf = (name: string): string => name.toLowerCase().replaceAll(' ', '-')
const spot = ([x, y]: Spot): Vec => ({ x: STANDS.x + UNIT * x, y: STANDS.y + UNIT * y })
const placed = (area: Area): Area => onCanvas(area, STANDS.x, STANDS.y)

/** It comes from the left, stops, and turns to whoever looks. */
const COMING = {
  ...{ id: 'dockhand-round', name: 'Come, stop and turn', length: 6, from: -170, view: 'side' },
  paces: [
    [0, 1],
    [2, 0],
  ],
  turns: [[4.3, 'front']],
} as const

/** Builds the puppet from the bytes of sheet.png; always the same document. */
export function buildDockhand(png: Uint8Array): Demo {
  const read = readPuppetFile(png, 'sheet.png', { ids: sequentialIds('dockhand') })
  const shop = new Workshop(
    run(run(read.puppet, renamePuppet, { name: 'Dockhand' }), setNote, { note: 'Cut from one sheet of three views' }),
    read.assets,
  )
  splitIntoViews(shop)
  for (const view of VIEWS) {
    shop.show(view)
    cutView(shop, VIEW_CUTS[view])
    if (view === 'front') makeTwins(shop)
    if (view === 'side') showFarLimbs(shop)
    shop.order(ORDERS[view])
  }
  shop.do(showPart, { parts: [shop.part('Sheet').id], visible: false })
  shop.show('front')
  const walking = withStride(withSimpleFace(shop.puppet, shop.boneOf('Head')), 'dockhand', 'Walk', { travels: true })
  return { puppet: withWalk(walking, COMING), assets: shop.assets }
}

/** One cell for each figure, all standing on one spot. */
function splitIntoViews(shop: Workshop): void {
  const sheet = sure(Object.values(shop.puppet.parts).find((p) => p.content.kind === 'picture'))
  shop.do(renamePart, { part: sheet.id, name: 'Sheet' })
  const cells = VIEWS.map((view) => {
    const [x, y] = VIEW_CUTS[view].stands
    return { view, box: { x: x - 240, y: 0, width: 480, height: CANVAS.height }, spot: { x, y } }
  })
  const cut = cutSheet(shop.puppet, sheet.id, cells, (hash) => shop.assets.get(hash), 'cell', false)
  for (const [hash, bytes] of cut.assets) shop.assets.set(hash, bytes)
  const views = VIEWS.map((id) => ({ id, name: VIEW_CUTS[id].name }))
  shop.do(splitSheet, { part: sheet.id, sheet: cut.sheet, views, pieces: [...cut.pieces], spot: STANDS, canvas: CANVAS })
}

/** Cuts the shown view, and puts bones, pivots and joints where it has them. */
function cutView(shop: Workshop, cuts: ViewCuts): void {
  shop.cut(placed(seenOf(cuts.torso, cuts)), 'Jersey')
  shop.cut(placed(cuts.head), 'Head')
  shop.fill('Jersey', placed(cuts.torso))
  const waist = spot([cuts.neck[0] * 0.4, -92])
  shop.bone('Body', null, waist, spot(cuts.neck), 0)
  shop.bone('Head', 'Body', spot(cuts.neck), spot([cuts.neck[0], -250]), LIMITS.neck)
  hang(shop, 'Jersey', 'Body', waist)
  hang(shop, 'Head', 'Head', spot(cuts.neck))
  shop.join('Jersey', 'Head', spot(cuts.neck), 14 * UNIT)
  for (const [side, arm] of Object.entries(cuts.arms)) cutLimb(shop, cuts, ARM, side, arm)
  for (const [side, leg] of Object.entries(cuts.legs)) cutLimb(shop, cuts, LEG, side, leg)
}

function hang(shop: Workshop, part: string, bone: string, pivot: Vec): void {
  shop.pivot(part, pivot)
  shop.do(bindWhole, { parts: [shop.part(part).id], bone: shop.boneOf(bone) })
}

/** Cuts the three pieces of a limb, with a bone in each and a round end at each joint. */
function cutLimb(shop: Workshop, cuts: ViewCuts, names: typeof ARM | typeof LEG, side: string, limb: Limb): void {
  const isArm = names === ARM
  const areas = isArm ? armAreas(limb) : legAreas(limb, cuts.torso)
  const limits = isArm ? [LIMITS.shoulder, LIMITS.elbow, LIMITS.wrist] : [LIMITS.hip, LIMITS.knee, LIMITS.ankle]
  const spots = [...limb.joints, limb.end]
  const pieces = names.map((n) => `${n} ${side}`)
  pieces.forEach((name, i) => {
    shop.cut(placed(isArm ? nth(areas, i) : seenOf(nth(areas, i), cuts)), name)
    const hidden = hiddenOf(nth(areas, i), cuts)
    if (!isArm && hidden) shop.fill(name, placed(hidden))
    const [start, end] = [spot(nth(spots, i)), spot(nth(spots, i + 1))]
    shop.bone(name, i === 0 ? 'Body' : nth(pieces, i - 1), start, end, nth(limits, i))
    hang(shop, name, name, start)
  })
  pieces.forEach((name, i) => {
    const above = i === 0 ? 'Jersey' : nth(pieces, i - 1)
    // Arms hang before the jersey, hands in the cuffs; legs come out of it, boots go over them.
    const isOver = isArm ? i === 0 : i === 2
    const [under, over] = isOver ? [above, name] : [name, above]
    const at = spot(nth(limb.joints, i))
    const wanted = nth(isArm ? ROUND.arm : ROUND.leg, i) * nth(limb.half, i) * UNIT
    const joint = shop.join(under, over, at, i === 1 ? Math.min(wanted, shop.breadthAt(name, above)) : wanted)
    // A hem, a cuff or the top of a boot stays as it is.
    shop.cap(joint, i === 1 ? 'both' : 'under')
  })
}

/** The left limbs are twins of the right ones. */
function makeTwins(shop: Workshop): void {
  const mirror = { kind: 'mirror' as const, x: STANDS.x }
  const limbs = [...ARM, ...LEG].map((n) => `${n} right`)
  const parts = limbs.map((n) => shop.part(n).id)
  shop.do(makeTwin, { parts, bones: [nth(limbs, 0), nth(limbs, 3)].map((n) => shop.boneOf(n)), across: mirror, prefix: 'twin' })
}

/** From the side the far limbs look as the near ones do. */
function showFarLimbs(shop: Workshop): void {
  for (const name of [...ARM, ...LEG]) {
    const [near, far] = [shop.part(`${name} right`), shop.part(`${name} left`)]
    shop.do(setViewArt, { part: far.id, view: 'side', art: sure(near.art['side']) })
    shop.do(setHome, { part: far.id, home: { ...near.home, x: near.home.x + FAR.x, y: near.home.y + FAR.y } })
    const bone = boneOf(shop.puppet, shop.boneOf(near.name))
    shop.do(setBoneEnds, { bones: [{ bone: shop.boneOf(far.name), start: aside(bone.start), end: aside(bone.end) }] })
    shop.pivot(far.name, aside(bone.start))
  }
  for (const { under, over, at, radius } of Object.values(shop.puppet.joints)) {
    const isNear = [under, over].some((p) => partOf(shop.puppet, p).name.endsWith('right'))
    if (!isNear) continue
    const far = [under, over].map((p) => partOf(shop.puppet, p).name.replace('right', 'left'))
    shop.join(nth(far, 0), nth(far, 1), aside(at), radius)
  }
}

const aside = ({ x, y }: Vec): Vec => ({ x: x + FAR.x, y: y + FAR.y })

/** Clatter, whose six legs have their knees the wrong way round: outwards and up. Built through the same commands as everything. */
import { withSprings } from '../springs'
import { withStride, withWalk } from '../strides'
import { autoWeights } from '@marionette/core/binds/autoWeights'
import { sequentialIds } from '@marionette/core/kernel/ids'
import type { BendSide, Puppet, Vec } from '@marionette/core/puppet/schema'
import { bindBlended, bindWhole } from '@marionette/core/binds/commands'
import { addBone, setLimits } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { addConstraint, addTarget } from '@marionette/core/constraints/commands'
import { renamePart } from '@marionette/core/parts/commands'
import { renamePuppet, setNaming, setNote } from '@marionette/core/puppet/puppetCommands'
import { importSvg } from '@marionette/formats/svg/import'
import { sure } from '@marionette/core/kernel/sure'

interface Leg {
  readonly name: string
  /** Hip, knee and foot on the left side; the right one is its mirror image. */
  readonly joints: readonly [Vec, Vec, Vec]
  readonly colour: number
}

const LEGS: readonly Leg[] = [
  {
    name: 'Leg back',
    joints: [
      { x: 556, y: 398 },
      { x: 650, y: 384 },
      { x: 692, y: 538 },
    ],
    colour: 2,
  },
  {
    name: 'Leg middle',
    joints: [
      { x: 544, y: 432 },
      { x: 636, y: 432 },
      { x: 658, y: 576 },
    ],
    colour: 4,
  },
  {
    name: 'Leg front',
    joints: [
      { x: 516, y: 461 },
      { x: 586, y: 484 },
      { x: 592, y: 592 },
    ],
    colour: 5,
  },
]

const ARM: readonly [Vec, Vec, Vec] = [
  { x: 540, y: 352 },
  { x: 622, y: 236 },
  { x: 640, y: 130 },
]
const EYE: readonly [Vec, Vec] = [
  { x: 444, y: 300 },
  { x: 444, y: 200 },
]

const MIDDLE = 400
const SIDES = [
  { side: 'left', across: (v: Vec): Vec => v, knee: -1 },
  { side: 'right', across: (v: Vec): Vec => ({ x: 2 * MIDDLE - v.x, y: v.y }), knee: 1 },
] as const

/** `leg-back-left` becomes `Leg back left`. */
const spoken = (id: string): string => id.charAt(0).toUpperCase() + id.slice(1).replace(/-/g, ' ')

/** Builds the puppet from the text of clatter.svg; always the same document. */
export function buildClatter(svg: string): Puppet {
  let puppet = importSvg(svg, 'Clatter', sequentialIds('clatter'), 'clatter.svg').puppet
  puppet = run(puppet, renamePuppet, { name: 'Clatter' })
  puppet = run(puppet, setNote, { note: 'The crab who sorts parcels' })
  puppet = run(puppet, setNaming, { naming: 'character-side' })
  for (const part of Object.values(puppet.parts))
    if (part.id !== puppet.root) puppet = run(puppet, renamePart, { part: part.id, name: spoken(part.name) })
  const rigger = new Rigger(puppet)
  rigger.bone('Shell', null, { x: MIDDLE, y: 470 }, { x: MIDDLE, y: 330 }, 1)
  rigger.bone('Parcel', 'Shell', { x: MIDDLE, y: 274 }, { x: MIDDLE, y: 60 }, 7)
  for (const { side, across, knee } of SIDES) {
    for (const leg of LEGS) rigger.leg(`${leg.name} ${side}`, leg.joints.map(across) as [Vec, Vec, Vec], leg.colour, knee)
    rigger.arm(side, ARM.map(across) as [Vec, Vec, Vec])
    rigger.bone(`Eye ${side}`, 'Shell', across(EYE[0]), across(EYE[1]), 8, { min: -50, max: 50 })
    rigger.whole(`Eye ${side}`, `Eye ${side}`)
  }
  rigger.whole('Body', 'Shell')
  rigger.whole('Parcel', 'Parcel')
  const sprung = withSprings(rigger.puppet, 'clatter', [
    { name: 'Eyes', bones: ['Eye left', 'Eye right'], character: 'springy', colour: '#a83279' },
  ])
  const walking = withStride(sprung, 'clatter', 'Sidle', { travels: true })
  return withWalk(walking, {
    ...{ id: 'clatter-sidle', name: 'Sidle over and back', length: 6 },
    paces: [
      [0, 0],
      [0.5, 1],
      [2, 0],
      [3.2, -1],
      [4.7, 0],
    ],
  })
}

class Rigger {
  private readonly ids = sequentialIds('clatter-rig')
  private readonly bones = new Map<string, string>()
  constructor(public puppet: Puppet) {}

  private part(name: string): string {
    return sure(Object.values(this.puppet.parts).find((p) => p.name === name && p.id !== this.puppet.root)).id
  }

  bone(name: string, parent: string | null, start: Vec, end: Vec, colour: number, limits?: { min: number; max: number }): string {
    const id = this.ids('bone')
    this.bones.set(name, id)
    this.puppet = run(this.puppet, addBone, { id, name, parent: parent === null ? null : sure(this.bones.get(parent)), start, end, colour })
    if (limits) this.puppet = run(this.puppet, setLimits, { bone: id, limits })
    return id
  }

  whole(part: string, bone: string): void {
    this.puppet = run(this.puppet, bindWhole, { parts: [this.part(part)], bone: sure(this.bones.get(bone)) })
  }

  private blended(part: string, bones: string[]): void {
    const id = this.part(part)
    this.puppet = run(this.puppet, bindBlended, { part: id, bones, field: autoWeights(this.puppet, id, bones) })
  }

  /** Two bones that reach for a foot; the knee stays outside and above. */
  leg(name: string, [hip, knee, foot]: readonly [Vec, Vec, Vec], colour: number, side: BendSide): void {
    const bones = [this.bone(name, 'Shell', hip, knee, colour), this.bone(`${name} shin`, name, knee, foot, colour)]
    this.blended(name, bones)
    const target = this.ids('target')
    this.puppet = run(this.puppet, addTarget, { id: target, name: `${name} foot`, at: foot, parent: null })
    const reach = {
      kind: 'reach',
      id: this.ids('constraint'),
      name: `${name} reaches`,
      amount: 1,
      stretch: 1,
      level: null,
      pole: null,
    } as const
    this.puppet = run(this.puppet, addConstraint, { constraint: { ...reach, bones, target, side, soft: 0.08 } })
  }

  arm(side: string, [shoulder, wrist, tip]: readonly [Vec, Vec, Vec]): void {
    this.bone(`Arm ${side}`, 'Shell', shoulder, wrist, 3, { min: -60, max: 60 })
    this.bone(`Claw ${side}`, `Arm ${side}`, wrist, tip, 3, { min: -70, max: 70 })
    this.whole(`Arm ${side}`, `Arm ${side}`)
    this.whole(`Claw ${side}`, `Claw ${side}`)
  }
}

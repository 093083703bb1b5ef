import { describe, expect, test } from 'vitest'
import { DEMOS, demoOpenRaster, demoSvg } from '@marionette/demo/demos'
import { importSvg } from '@marionette/formats/svg/import'
import { readPuppetFile } from '@marionette/formats/read'
import { brokenInvariants } from '../puppet/invariants'
import { sequentialIds } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { run } from '../puppet/edit'
import { renamePart } from '../parts/commands'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { bonePoint, partsAt } from '../puppet/probe'
import { applyFit } from './apply'
import { assignRoles, suits } from './assign'
import { BIRD, FACE_TEMPLATE, PERSON, TEMPLATES } from './builtin'
import { planFit } from './fit'
import { outOfOrder, paintOrder } from './order'
import { templateOf } from './saved'
import { Template } from './template'
import { setRole } from '../roles/commands'

const fit = (puppet: Puppet, template: Template = PERSON) => {
  const assignment = assignRoles(puppet, template)
  const plan = planFit(puppet, template, assignment.roles)
  return { assignment, plan, ...applyFit(puppet, plan, { ids: sequentialIds('fit') }) }
}

const marlo = importSvg(demoSvg(), 'Marlo', sequentialIds('m')).puppet

/** A person of boxes and circles. */
const stick = (shapes: string): Puppet =>
  importSvg(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="600">${shapes}</svg>`, 'Stick', sequentialIds('s')).puppet
const BODY = '<rect id="Body" x="150" y="200" width="100" height="180"/><circle id="Head" cx="200" cy="140" r="70"/>'
const limb = (id: string, x: number, y: number, high: number): string =>
  `<rect id="${id}" x="${x}" y="${y}" width="30" height="${high}" rx="15"/>`

describe('fitting a person', () => {
  const { plan, puppet, assignment } = fit(marlo)

  test('finds every role, places every bone, and leaves nothing to do by hand', () => {
    expect(assignment.missing).toEqual([])
    expect(plan.byHand).toEqual([])
    expect(plan.bones.length).toBeGreaterThanOrEqual(19)
    expect(brokenInvariants(puppet)).toEqual([])
  })

  test('joints lie where a rigger put them by hand', () => {
    const byHand = Object.values(DEMOS['marlo']!().puppet.bones)
    const compared = plan.bones.filter((b) => /^(upper-arm|forearm|hand|thigh|shin|head)/.test(b.key))
    expect(compared).toHaveLength(11)
    for (const { name, start } of compared) {
      const bone = byHand.find((b) => b.name === name)!
      expect(Math.hypot(start.x - bone.start.x, start.y - bone.start.y), name).toBeLessThan(26)
    }
    for (const { key, startBy } of plan.bones.filter((b) => /arm|hand|thigh|shin|foot/.test(b.key))) expect(startBy, key).toBe('overlap')
  })

  test('limbs wave without tearing: neighbours still overlap at the joint', () => {
    const rig = compile(puppet)
    const angle = (name: string, v: number): [string, number] => [
      `bone/${Object.values(puppet.bones).find((b) => b.name === name)!.id}/angle`,
      v,
    ]
    const frame = poseRig(
      rig,
      Object.fromEntries([angle('Upper arm left', 120), angle('Forearm left', 60), angle('Thigh left', 60), angle('Shin left', -90)]),
    )
    for (const [a, b, bone] of [
      ['upper-arm-left', 'forearm-left', 'Forearm left'],
      ['forearm-left', 'hand-left', 'Hand left'],
      ['thigh-left', 'shin-left', 'Shin left'],
      ['shin-left', 'boot-left', 'Foot left'],
    ] as const) {
      const { id } = Object.values(puppet.bones).find((known) => known.name === bone)!
      const joint = bonePoint(frame, rig.bones.index.get(id)!, 0)
      const there = partsAt(frame, joint.x, joint.y).map((part) => puppet.parts[part]!.name)
      expect(there, `${a} and ${b}`).toEqual(expect.arrayContaining([a, b]))
    }
  })

  test('says what is missing, and puts it where the figure has it', () => {
    const { plan: half } = fit(stick(BODY + limb('Arm_L', 240, 220, 150) + limb('Arm_R', 130, 220, 150) + limb('Leg_L', 205, 370, 200)))
    expect(half.byHand.map((b) => b.what)).toEqual(['Thigh right', 'Shin right', 'Foot right'])
    const thigh = half.bones.find((b) => b.key === 'thigh:right')!
    expect(thigh).toMatchObject({ part: null, startBy: 'figure' })
    expect(thigh.start.x).toBeLessThan(200)
  })

  test('one part for a whole limb gets all its bones, along its medial line', () => {
    const { plan: whole, puppet: made } = fit(stick(BODY + limb('Arm_L', 240, 220, 150)))
    const [upper, fore, hand] = ['upper-arm:left', 'forearm:left', 'hand:left'].map((key) => whole.bones.find((b) => b.key === key)!)
    expect(upper!.end).toEqual(fore!.start)
    expect(fore!.end).toEqual(hand!.start)
    expect(hand!.end.y).toBeGreaterThan(340)
    const part = Object.values(made.parts).find((p) => p.name === 'Arm_L')!
    expect(part.bind).toMatchObject({ kind: 'blended' })
  })

  test('parts that only touch are joined at the contact', () => {
    const apart = stick(
      BODY + '<rect id="Upper_arm_L" x="252" y="220" width="30" height="80"/><rect id="Forearm_L" x="252" y="302" width="30" height="80"/>',
    )
    const fore = fit(apart).plan.bones.find((b) => b.key === 'forearm:left')!
    expect(fore.startBy).toBe('contact')
    expect(fore.start.x).toBeCloseTo(267, -1)
    expect(fore.start.y).toBeCloseTo(301, -1)
  })

  test('two parts for one role, one name twice and a missing side are all said', () => {
    const found = assignRoles(
      stick(
        BODY +
          limb('Arm_L', 240, 220, 150) +
          limb('arm left', 245, 220, 150) +
          limb('Hand', 10, 10, 30) +
          limb('Hat', 10, 10, 30) +
          limb('Hat', 60, 10, 30),
      ),
      PERSON,
    )
    expect(found.roles.get('arm:left')!.rivals).toHaveLength(1)
    expect([...found.twice.keys()]).toEqual(['Hat'])
    expect(found.sideless.map((m) => m.role)).toEqual(['hand'])
  })

  test('parts are painted in the order of the template if that is asked for, all others stay', () => {
    const puppet1 = stick(
      '<circle id="Head" cx="200" cy="140" r="70"/>' +
        limb('moss', 10, 10, 40) +
        '<rect id="Body" x="150" y="200" width="100" height="180"/>',
    )
    const plan1 = planFit(puppet1, PERSON, assignRoles(puppet1, PERSON).roles)
    expect(outOfOrder(puppet1, PERSON, plan1.roles)).toBe(2)
    const ordered = applyFit(puppet1, plan1, { ids: sequentialIds('o'), order: paintOrder(puppet1, PERSON, plan1.roles) }).puppet
    expect(ordered.parts[ordered.root]!.children.map((id) => ordered.parts[id]!.name)).toEqual(['Body', 'moss', 'Head'])
  })

  test('a role given by hand counts for certain', () => {
    const puppet1 = stick(BODY + limb('thing', 240, 220, 150))
    const thing = Object.values(puppet1.parts).find((p) => p.name === 'thing')!.id
    const given = run(puppet1, setRole, { parts: [thing], role: 'arm:left' })
    expect(assignRoles(given, PERSON).roles.get('arm:left')).toMatchObject({ part: thing, certainty: 1 })
    expect(assignRoles(run(given, setRole, { parts: [thing], role: 'none' }), PERSON).roles.has('arm:left')).toBe(false)
  })
})

describe('templates', () => {
  test.each(TEMPLATES.map((t) => [t.name, t] as const))(
    '%s is sound: parents first, all keys exist, the sides mirror each other',
    (_, template) => {
      expect(() => Template.parse(template)).not.toThrow()
      const seen = new Set<string>()
      for (const bone of template.bones) {
        if (bone.parent !== null) expect(seen).toContain(bone.parent)
        expect(seen.has(bone.key)).toBe(false)
        seen.add(bone.key)
      }
      for (const { on } of template.bones) if (on !== null) expect(seen).toContain(on)
      for (const { bone } of template.carried) expect(seen).toContain(bone)
      for (const key of seen) if (key.endsWith(':left')) expect(seen).toContain(key.replace(':left', ':right'))
    },
  )

  test('the one that suits best is told', () => {
    expect(suits(marlo, PERSON)).toBeGreaterThan(Math.max(...TEMPLATES.filter((t) => t !== PERSON).map((t) => suits(marlo, t))))
    const quill = { ...readPuppetFile(demoOpenRaster(), 'quill.ora').puppet, naming: 'near-far' as const }
    expect(suits(quill, BIRD)).toBeGreaterThan(suits(quill, FACE_TEMPLATE))
  })

  test('a skeleton saved as a template fits the same artwork again, with the bones where they were', () => {
    const { puppet } = fit(marlo)
    const saved = Template.parse(templateOf(puppet, 'mine', 'Mine'))
    const again = fit(marlo, saved)
    expect(again.plan.bones).toHaveLength(saved.bones.length)
    for (const bone of Object.values(puppet.bones)) {
      const same = again.plan.bones.find((b) => b.name === bone.name)!
      expect(Math.hypot(same.start.x - bone.start.x, same.start.y - bone.start.y), bone.name).toBeLessThan(40)
    }
  })

  test('a part of a saved template without a known role is found by its name', () => {
    const trunk = Object.values(marlo.parts).find((p) => p.name === 'jacket')!.id
    const odd = run(marlo, renamePart, { part: trunk, name: 'Zeppelin hull' })
    const bound = run(odd, setRole, { parts: [trunk], role: 'torso' })
    const { puppet } = fit(bound)
    const forgotten = run(puppet, setRole, { parts: [trunk], role: null })
    const saved = templateOf(forgotten, 'mine', 'Mine')
    expect(saved.bones.some((b) => b.of.includes('zeppelin-hull'))).toBe(true)
    expect(assignRoles(odd, saved).roles.get('zeppelin-hull')?.part).toBe(trunk)
  })
})

test('a symmetric drawing gets an upright spine, wherever it stands on the canvas', () => {
  for (const by of [0, 137]) {
    const x = 200 + by
    const person = stick(
      `<path id="Torso" d="M${x - 60} 180h120l30 220h-180z"/>
      <rect id="Neck" x="${x - 40}" y="160" width="80" height="40"/>
      <ellipse id="Head" cx="${x}" cy="100" rx="90" ry="75"/>
      ${limb('Arm L', x + 60, 190, 160)}${limb('Arm R', x - 90, 190, 160)}${limb('Leg L', x + 15, 380, 180)}${limb('Leg R', x - 45, 380, 180)}`,
    )
    const spine = fit(person).plan.bones.filter((b) => /^(hips|waist|chest|spine|neck|head)$/.test(b.key))
    expect(spine.length).toBeGreaterThan(3)
    for (const { key, start, end } of spine)
      for (const spot of [start, end]) expect(Math.abs(spot.x - x), `${key}, shifted by ${by}`).toBeLessThan(1)
  }
})

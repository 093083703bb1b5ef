/** A stranger's drawing, all the way from the dropped file to a puppet that waves, without a number typed. */
import { expect, test } from 'vitest'
import { bonePoint } from '@marionette/core/puppet/probe'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import type { Puppet } from '@marionette/core/puppet/schema'
import { restBounds } from '@marionette/core/parts/tree'
import { ferrymanWaves, ROUND_JOINTS } from './ferrymanSteps'
import { sessionOfFile } from './session'

const session = sessionOfFile()

const part = (puppet: Puppet, name: string) => Object.values(puppet.parts).find((p) => p.name === name)!
const bone = (puppet: Puppet, name: string) => Object.values(puppet.bones).find((b) => b.name === name)!

test('untidy layers, round limbs and a body off the middle become a puppet that waves', async () => {
  const { page, editor, server } = session
  await page.goto(server.url)
  const steps: string[] = []
  const grades = await ferrymanWaves(page, editor, async (says) => void steps.push(says))
  expect(steps).toHaveLength(10)
  const puppet = await editor.document()

  // Names with N_ and F_ before them; what is beside the canvas is nobody's limb.
  expect(part(puppet, 'N_forearm').role).toMatch(/^forearm/)
  expect(part(puppet, 'N_arm up').role).toMatch(/^upper-arm/)
  expect(part(puppet, 'background')).toMatchObject({ role: null, bind: null })

  // The spine is upright, in the middle of the coat and not of the canvas.
  const coat = restBounds(puppet, part(puppet, 'coat').id)!
  for (const name of ['Spine', 'Chest']) {
    const { start, end } = bone(puppet, name)
    expect(Math.abs(start.x - (coat.minX + coat.maxX) / 2)).toBeLessThan(6)
    expect(Math.abs(end.x - start.x)).toBeLessThan(4)
  }

  // Joints with round ends, each of them tested, none of them broken.
  const joined = Object.values(puppet.joints).map((j) => puppet.parts[j.over]!.name)
  expect(joined).toEqual(expect.arrayContaining(ROUND_JOINTS))
  expect(grades).toHaveLength(ROUND_JOINTS.length)
  expect(grades).not.toContain('broken')

  // The line of the mouth goes with the head, below the moustache.
  const line = part(puppet, 'Mouth line')
  const { children } = puppet.parts[line.parent!]!
  expect(line.bind).toEqual(part(puppet, 'Mouth').bind)
  expect(children.indexOf(line.id)).toBeLessThan(children.indexOf(part(puppet, 'moustache').id))

  // The hand is above the elbow of the other arm, and at the height of the head.
  const frame = posePuppet(puppet)
  const hand = bonePoint(frame, frame.rig.bones.ids.indexOf(bone(puppet, 'Hand near').id), 1)
  expect(hand.y).toBeLessThan(430)

  // Minutes after he was dropped he walks; his other leg goes ahead half a stride later, and a background stays.
  await editor.bench('Bones')
  await editor.button('Let it walk')
  await page.waitForSelector('[aria-label="The ring of the stride"] [data-leg="1"]')
  const walking = await editor.document()
  const [stride] = walking.strides
  expect(stride?.legs.map(({ bones, foot, at }) => [bones.length, foot !== null, at])).toEqual([
    [2, true, 0],
    [2, true, 0.5],
  ])
  const picture = (): Promise<string> => page.$eval('[data-testid=art]', (e) => (e as HTMLCanvasElement).toDataURL())
  const before = await picture()
  await expect.poll(picture).not.toBe(before)
  expect(session.errors).toEqual([])
})

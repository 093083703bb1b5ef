/** Skeletons of people, as they are drawn: with arms that hang, and with arms held out. */
import { addBone, setLimits } from '../bones/commands'
import { run } from '../puppet/edit'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'

/** Spots of a figure that stands, by the names of bones: start and end. */
export type Figure = Readonly<Record<string, readonly [parent: string | null, x0: number, y0: number, x1: number, y1: number]>>

export const HANGING: Figure = {
  Hips: [null, 200, 300, 200, 270],
  Spine: ['Hips', 200, 270, 200, 230],
  Chest: ['Spine', 200, 230, 200, 180],
  Head: ['Chest', 200, 170, 200, 80],
  'Upper arm left': ['Chest', 240, 190, 252, 250],
  'Forearm left': ['Upper arm left', 252, 250, 258, 306],
  'Hand left': ['Forearm left', 258, 306, 260, 330],
  'Upper arm right': ['Chest', 160, 190, 148, 250],
  'Forearm right': ['Upper arm right', 148, 250, 142, 306],
  'Hand right': ['Forearm right', 142, 306, 140, 330],
  'Thigh left': ['Hips', 220, 300, 222, 370],
  'Shin left': ['Thigh left', 222, 370, 222, 440],
  'Foot left': ['Shin left', 222, 440, 244, 450],
  'Thigh right': ['Hips', 180, 300, 178, 370],
  'Shin right': ['Thigh right', 178, 370, 178, 440],
  'Foot right': ['Shin right', 178, 440, 156, 450],
}

/** The same person drawn with arms held out level. */
export const SPREAD: Figure = {
  ...HANGING,
  'Upper arm left': ['Chest', 240, 190, 300, 190],
  'Forearm left': ['Upper arm left', 300, 190, 356, 190],
  'Hand left': ['Forearm left', 356, 190, 380, 190],
  'Upper arm right': ['Chest', 160, 190, 100, 190],
  'Forearm right': ['Upper arm right', 100, 190, 44, 190],
  'Hand right': ['Forearm right', 44, 190, 20, 190],
}

const idOf = (name: string): string => name.toLowerCase().replace(/ /g, '-')

export function person(figure: Figure): Puppet {
  const empty: Puppet = { ...newPuppet('p', 'P', { width: 400, height: 480 }), naming: 'character-side' }
  const boned = Object.entries(figure).reduce(
    (p, [name, [parent, x0, y0, x1, y1]]) =>
      run(p, addBone, {
        ...{ id: idOf(name), name, parent: parent === null ? null : idOf(parent), colour: 1 },
        ...{ start: { x: x0, y: y0 }, end: { x: x1, y: y1 } },
      }),
    empty,
  )
  const knees: [string, number, number][] = [
    ['shin-left', -130, 5],
    ['shin-right', -5, 130],
  ]
  return knees.reduce((p, [bone, min, max]) => run(p, setLimits, { bone, limits: { min, max } }), boned)
}

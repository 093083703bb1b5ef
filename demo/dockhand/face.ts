/** The simplest face that works: three mouths over the painted one, and lids that blink. Seen from the front. */
import { ovalPath } from '@marionette/core/artwork/touch/primitives'
import type { Drawing, Part, Path, Puppet, Shape } from '@marionette/core/puppet/schema'
import { bindWhole } from '@marionette/core/binds/commands'
import { run } from '@marionette/core/puppet/edit'
import { makeSwap, setFlipbook, setSwap } from '@marionette/core/alternates/commands'
import { newPart } from '@marionette/core/parts/new'
import { partChannel } from '@marionette/core/parts/channels'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import { sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

const SKIN = '#c5855d'
const LIP = '#6b2f22'
const DARK = '#4a1a17'
const TONGUE = '#c9625a'

const flat = (id: number, path: Path, colour: string): Shape => ({
  ...{ id, alpha: 1, lineFirst: false, paths: [path], line: null },
  ink: { paint: { kind: 'flat', colour }, alpha: 1, rule: 'nonzero' },
})

const stroke = (id: number, anchors: number[], handles: number[], firstId: number): Shape => ({
  ...{ id, alpha: 1, lineFirst: false, ink: null },
  paths: [{ closed: false, ids: anchors.flatMap((_, k) => (k % 2 === 0 ? [firstId + k / 2] : [])), anchors, handles }],
  line: { paint: { kind: 'flat', colour: LIP }, alpha: 1, width: 8, cap: 'round', join: 'round', miter: 4, dash: null, pen: null },
})

/** Skin over what is painted there; its rim fades. */
const patch = (id: number, x: number, y: number, rx: number, ry: number, firstId: number): Shape => ({
  ...{ id, alpha: 1, lineFirst: false, line: null },
  paths: [ovalPath({ x: x - rx, y: y - ry, width: 2 * rx, height: 2 * ry }, firstId)],
  ink: {
    paint: {
      ...{ kind: 'radial', focus: { x: 0, y: 0 }, focusRadius: 0, centre: { x: 0, y: 0 }, radius: 1, spread: 'pad' },
      map: [rx, 0, 0, ry, x, y],
      stops: [
        { at: 0, colour: SKIN, alpha: 1 },
        { at: 0.84, colour: SKIN, alpha: 1 },
        { at: 1, colour: SKIN, alpha: 0 },
      ],
    },
    ...{ alpha: 1, rule: 'nonzero' },
  },
})

/** Middles of the mouth and of the eyes, canvas px. */
const MOUTH = { x: 260, y: 275 }
const EYES = [
  { x: 218.5, y: 210 },
  { x: 301.5, y: 210 },
]

const oval = (x: number, y: number, rx: number, ry: number, firstId: number): Path =>
  ovalPath({ x: x - rx, y: y - ry, width: 2 * rx, height: 2 * ry }, firstId)

/** Drawings of the alternates by their names; what is not listed shows the painted face. */
const DRAWN: Readonly<Record<string, readonly Shape[]>> = {
  'Closed mbp': [patch(0, MOUTH.x, MOUTH.y, 52, 19, 1), stroke(1, [236, 276, 284, 276], [0, 0, 12, 2, -12, 2, 0, 0], 10)],
  'Open aa': [
    patch(0, MOUTH.x, MOUTH.y, 52, 19, 1),
    flat(1, oval(MOUTH.x, MOUTH.y, 23, 14, 10), DARK),
    flat(2, oval(MOUTH.x, MOUTH.y + 9, 13, 4.5, 20), TONGUE),
  ],
  'Lids closed': EYES.flatMap(({ x, y }, k) => [
    patch(2 * k, x, y, 20, 22, 20 * k + 1),
    stroke(2 * k + 1, [x - 13, y + 3, x + 13, y + 3], [0, 0, 8, 7, -8, 7, 0, 0], 20 * k + 10),
  ]),
}

const idFor = (name: string): string => `face-${name.toLowerCase().replaceAll(' ', '-')}`

function alternate(name: string, parent: string, view: string): { part: Part; drawings: Drawing[] } {
  const shapes = DRAWN[name]
  const id = idFor(name)
  const part = {
    ...newPart(id, name, shapes ? { kind: 'drawing' } : { kind: 'group' }),
    parent,
    art: shapes ? { [view]: `${id}-drawing` } : {},
  }
  return { part, drawings: shapes ? [{ id: `${id}-drawing`, shapes: [...shapes] }] : [] }
}

export function withSimpleFace(puppet: Puppet, headBone: string): Puppet {
  const groups = [
    { name: 'Mouth', alternates: ['Closed mbp', 'Open aa', 'Smile rest'] },
    { name: 'Lids', alternates: ['Lids closed', 'Lids open'] },
  ]
  let face = puppet
  for (const { name, alternates } of groups) {
    const group = idFor(name)
    const made = alternates.map((a) => alternate(a, group, puppet.view))
    face = run(face, addArtwork, {
      parent: face.root,
      parts: [newPart(group, name), ...made.map((m) => m.part)],
      drawings: made.flatMap((m) => m.drawings),
    })
    face = run(face, bindWhole, { parts: [group], bone: headBone })
    face = run(face, makeSwap, { group })
  }
  const mouth = sure(partOf(face, idFor('Mouth')).swap)
  const sets = [{ name: 'Everyday', sounds: { rest: 3, mbp: 1, aa: 2, fv: 1 } }]
  face = run(face, setSwap, { part: idFor('Mouth'), swap: { ...mouth, morph: { how: 'cut', seconds: 0, eases: false }, sets } })
  const blink = {
    ...{ id: 'face-blink', name: 'Blink', channel: partChannel(idFor('Lids'), 'alternate'), pictures: [1], hold: 0.12 },
    ...{ way: 'forward' as const, ends: 'once' as const, timer: { every: 3.2, vary: 0.6, seed: 2 } },
  }
  return run(face, setFlipbook, { flipbook: blink })
}

/** A small puppet in which there is one of everything, so that every command finds something to work on. */
import { run } from '../../puppet/edit'
import { addConstraint, addTarget } from '../../constraints/commands'
import { addDeformer } from '../../deformers/commands'
import { addJoint } from '../../joints/commands'
import { setMasks } from '../../layering/commands'
import { addSwatch, linkColours } from '../../artwork/palette'
import { groupParts } from '../../parts/commands'
import { addResponse } from '../../responses/commands'
import { addClip, setMarker } from '../../clips/commands'
import { newClip, newLayer } from '../../clips/new'
import { hangPose } from '../../clips/poseCommands'
import { addSound, setSpoken } from '../../clips/soundCommands'
import { newCamera } from '../../staging/camera'
import { setCamera, setScenery } from '../../staging/commands'
import { keepPose, setCue } from '../../poses/saved'
import { makeSwap, setFlipbook } from '../../alternates/commands'
import { makeTwin } from '../../twins/commands'
import { addView } from '../../views/commands'
import type { Deformer } from '../../deformers/records'
import type { Picture } from '../../artwork/records'
import type { Puppet } from '../../puppet/schema'
import { box, drawingPart } from '../puppets'
import { answeringArm, by, moved, ruler } from '../responding'
import { addIdle } from '../../idle/commands'
import { addStride } from '../../strides/commands'
import { gaitOf, natureOf } from '../../strides/gaits'
import { addCollider, addSprings } from '../../springs/commands'
import { characterOf } from '../../springs/characters'
import { newCapsule, newSpringGroup } from '../../springs/new'
import { newPart } from '../../parts/new'
import { addArtwork } from '../../puppet/artworkCommands'

const PICTURE: Picture = {
  ...{ id: 'snap', asset: 'ab'.repeat(32), width: 40, height: 30, x: 20, y: 20, scale: 1 },
  mesh: { spacing: 20, vertices: [20, 20, 60, 20, 60, 50, 20, 50], triangles: [0, 1, 2, 0, 2, 3] },
}

const deformer = { name: 'Deformer', when: 'before' as const, bone: null, on: true, amount: 1, only: null }
const DEFORMERS: readonly Deformer[] = [
  {
    ...deformer,
    ...{ kind: 'cage', id: 'cage', box: { x: 300, y: 85, width: 40, height: 30 }, angle: 0, columns: 1, rows: 1, smooth: true },
    form: new Array<number>(8).fill(0),
  },
  {
    ...deformer,
    ...{ kind: 'bend', id: 'bend', stretch: true, holdStart: false, holdEnd: false },
    points: [
      { id: 'bend-a', at: { x: 300, y: 100 } },
      { id: 'bend-b', at: { x: 340, y: 100 } },
    ],
  },
  {
    ...deformer,
    ...{
      kind: 'pins',
      id: 'pins',
      vertices: [300, 85, 340, 85, 340, 115, 300, 115],
      triangles: [0, 1, 2, 0, 2, 3],
      stiffness: [1, 1, 1, 1],
    },
    pins: [{ id: 'pin', kind: 'pin', at: { x: 310, y: 100 }, end: null, held: true, turns: true, radius: 5, depth: 0 }],
  },
]

/** Builds it anew: the same document each time. */
export function everything(): Puppet {
  let p = answeringArm()
  const eye = box('d-eye', 350, 40, 10, 10)
  const lid = box('d-lid', 350, 45, 12, 6)
  p = run(p, addArtwork, {
    parent: p.root,
    parts: [drawingPart('eye', 'Eye left', eye), drawingPart('lid', 'Lid left', lid)],
    drawings: [eye, lid],
  })
  p = run(p, addArtwork, {
    parent: p.root,
    parts: [{ ...newPart('photo', 'Photo', { kind: 'picture' }), art: { front: 'snap' } }],
    drawings: [],
    pictures: [PICTURE],
  })
  p = run(p, setMasks, { part: 'lid', masks: [{ shape: 'eye', keep: 'inside', by: 'area' }] })
  p = run(p, groupParts, { parts: ['eye', 'lid'], id: 'face', name: 'Face' })
  p = run(p, makeSwap, { group: 'face' })
  p = run(p, addSwatch, { id: 'skin', name: 'Skin', colour: '#aa5533' })
  p = run(p, linkColours, { drawings: ['d-hand'], swatches: [] })
  p = run(p, addJoint, { id: 'wrist', under: 'sleeve', over: 'hand', at: { x: 300, y: 100 }, radius: 15 })
  p = run(p, addTarget, { id: 'goal', name: 'Goal', at: { x: 330, y: 60 }, parent: null })
  p = run(p, addConstraint, {
    constraint: {
      ...{ kind: 'reach', id: 'reach', name: 'Reach', amount: 0.5, bones: ['upper', 'lower'], target: 'goal', side: 1 },
      ...{ soft: 0, stretch: 1, level: null, pole: null },
    },
  })
  for (const d of DEFORMERS) p = run(p, addDeformer, { part: 'hand', deformer: d })
  const shifts = [0, 5, 0, 0, 0, 0]
  p = run(p, addResponse, { response: ruler('raise', 'a', { '1': [by('bone/palm/angle', 20), moved('eye', 'd-eye', [0], shifts)] }) })
  p = run(p, keepPose, { pose: { id: 'wave', name: 'Wave', values: { 'bone/upper/angle': 30 }, face: null } })
  p = run(p, setFlipbook, {
    flipbook: {
      ...{
        id: 'blink',
        name: 'Blink',
        channel: 'part/face/alternate',
        pictures: [1, 2],
        hold: 0.1,
        way: 'forward',
        ends: 'once',
        timer: null,
      },
    },
  })
  p = run(p, setCue, { cue: { id: 'key', key: 'a', channel: 'part/face/alternate', value: 1, how: 'hold' } })
  p = run(p, addClip, {
    clip: newClip('nod', 'Nod', { length: 3, layers: [newLayer('nod-base', 'Base'), newLayer('nod-more', 'More', 'add')] }),
  })
  for (const [id, name, time, angle] of [
    ['down', 'Down', 0, 10],
    ['up', 'Up', 1, -20],
  ] as const)
    p = run(p, hangPose, {
      ...{ clip: 'nod', layer: 'nod-base', pose: { id, name, time } },
      values: { 'bone/upper/angle': angle, 'part/face/alternate': 1 },
    })
  p = run(p, setMarker, { clip: 'nod', marker: { id: 'beat', time: 0.5, note: 'Beat' } })
  p = run(p, addSound, {
    clip: 'nod',
    sound: { id: 'hum', name: 'Hum', asset: 'a'.repeat(64), duration: 2, at: 0.5, from: 0, length: 2, volume: 1, muted: false },
  })
  p = run(p, setSpoken, {
    ...{ clip: 'nod', layer: 'nod-more' },
    spoken: { start: 0.5, duration: 1, cues: [{ viseme: 'mbp', at: 0, word: 0 }], mood: '', sound: 'hum' },
  })
  p = run(p, setCamera, { camera: newCamera(p.canvas) })
  p = run(p, setScenery, { parts: ['hand'], where: 'background' })
  p = run(p, addSprings, { spring: newSpringGroup('swing', 'Swing', ['palm'], characterOf('hair')) })
  const chain = { name: 'Arm', bones: ['upper'], at: 0 }
  p = run(p, addStride, {
    stride: {
      ...{ id: 'stride', name: 'Walk', hips: 'upper', chest: null, head: 'palm', ...natureOf(gaitOf('walk'), 100) },
      legs: [{ ...chain, foot: 'palm', toe: null, knee: 0, touches: true, strength: 1, toeBend: 1 }],
      swings: [{ ...chain, turn: 20, follow: 0.5, bend: 0, lag: 0, times: 1 }],
      ...{ ways: { front: 1 }, travels: true, ground: [], speed: 0, amount: 1 },
    },
  })
  p = run(p, addIdle, {
    idle: {
      ...{ id: 'idle', name: 'Idle', amount: 1, seed: 1, breath: { rate: 14, depth: 1, chest: 'upper', belly: null, shoulders: ['palm'] } },
      shift: { far: 6, every: 5 },
      blink: { channel: 'part/face/opacity', shut: 0, every: 4 },
      glance: { x: null, y: null, far: 0.5, every: 3 },
    },
  })
  p = run(p, addCollider, { collider: newCapsule('body', 'Body', 'upper', 20) })
  p = run(p, addView, { id: 'side', name: 'Side' })
  return run(p, makeTwin, { parts: ['hand'], bones: ['palm'], across: { kind: 'mirror', x: 250 }, prefix: 'twin' })
}

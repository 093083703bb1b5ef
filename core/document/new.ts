/** Defaults: an empty puppet, a part or a bone before anything was done to it. */
import type { BoneId, ControlId, PartId, PuppetId, ResponseId } from './ids'
import {
  CURRENT_VERSION,
  type Bone,
  type Control,
  type ControlKind,
  type Input,
  type Part,
  type PartContent,
  type Placement,
  type Puppet,
  type Response,
  type Vec,
} from './schema'

export const FRONT_VIEW = 'front'

export const atHome = (): Placement => ({ x: 0, y: 0, angle: 0, scaleX: 1, scaleY: 1, skew: 0 })

export function newPart(id: PartId, name: string, content: PartContent = { kind: 'group' }): Part {
  return {
    id,
    name,
    parent: null,
    children: [],
    content,
    art: {},
    pivot: { x: 0, y: 0 },
    home: atHome(),
    bind: null,
    deformers: [],
    opacity: 1,
    visible: true,
    masks: [],
    blend: 'normal',
    isolated: false,
    effect: null,
    merged: null,
    locked: false,
    tag: 0,
    comment: '',
    role: null,
    source: null,
    twin: null,
    inViews: {},
    sheet: null,
    swap: null,
    alternate: 0,
  }
}

/** How a bone answers to its parent and to being drawn out, before anything was set. */
export const freeBone = (): Pick<Bone, 'lengths' | 'keepsVolume' | 'inherits' | 'influence' | 'locked'> => ({
  lengths: { min: 0.1, max: 10 },
  keepsVolume: true,
  inherits: { turn: true, scale: false },
  influence: { radius: null, strength: 1 },
  locked: false,
})

export function newBone(id: BoneId, name: string, start: Vec, end: Vec): Bone {
  return {
    id,
    name,
    label: '',
    parent: null,
    children: [],
    start,
    end,
    colour: 1,
    limits: { min: null, max: null },
    ...freeBone(),
    inViews: {},
  }
}

export function newPuppet(id: PuppetId, name: string, size: { width: number; height: number } = { width: 1000, height: 1000 }): Puppet {
  const root = newPart(`${id}-root`, name)
  return {
    format: 'eager-marionette/puppet',
    version: CURRENT_VERSION,
    id,
    name,
    note: '',
    canvas: { ...size, background: null },
    guides: [],
    reference: null,
    naming: 'character-side',
    views: [{ id: FRONT_VIEW, name: 'Front' }],
    view: FRONT_VIEW,
    palette: [],
    drawings: {},
    pictures: {},
    parts: { [root.id]: root },
    root: root.id,
    joints: {},
    bones: {},
    skeleton: [],
    targets: {},
    constraints: [],
    presets: [],
    controls: [],
    responses: [],
    poses: [],
    flipbooks: [],
    cues: [],
    pose: {},
  }
}

/** A control before anything was set: a slider from -1 to 1 on the shelf. */
export function newControl(id: ControlId, name: string, kind: ControlKind = 'slider', bone: BoneId | null = null): Control {
  const isPad = kind === 'pad'
  return {
    ...{ id, name, kind, colour: 1, group: '' },
    range: kind === 'toggle' ? { min: 0, max: 1, rest: 0 } : { min: -1, max: 1, rest: 0 },
    up: isPad ? { min: -1, max: 1, rest: 0 } : null,
    step: kind === 'toggle' ? 1 : 0,
    ...{ springs: false, symmetric: false, bone, ties: [], place: { on: 'shelf' } },
  }
}

/** A response before anything was recorded. */
export function newResponse(id: ResponseId, name: string, kind: Response['kind'], inputs: Input[]): Response {
  return {
    ...{ id, name, kind, inputs, stops: [] },
    ...{ between: 'smooth', curve: [0.4, 0, 0.6, 1], beyond: 'hold', overshoots: false },
    ...{ fade: 'product', switchAt: 0.5, priority: 0, muted: false },
  }
}

/** Defaults: a part before anything was done to it. */
import type { PartId } from '../kernel/ids'
import type { Part } from '../puppet/schema'
import type { PartContent, Placement } from './records'

/** The placement that changes nothing. */
export const atHome = (): Placement => ({ x: 0, y: 0, angle: 0, scaleX: 1, scaleY: 1, skew: 0 })

/** A part with defaults, not yet in any tree. */
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

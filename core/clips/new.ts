/** Defaults of clips. */
import type { Clip, ClipLayer } from './records'

/** A clip of two seconds in which nothing moves yet. */
export const newClip = (id: string, name: string, more: Partial<Clip> = {}): Clip => ({
  id,
  name,
  length: 2,
  rate: 24,
  step: 1,
  range: null,
  layers: [newLayer(`${id}-base`, 'Base')],
  poses: [],
  markers: [],
  tempo: null,
  sounds: [],
  loose: {},
  ...more,
})

/** A layer without tracks that shows in full. */
export const newLayer = (id: string, name: string, mode: ClipLayer['mode'] = 'override'): ClipLayer => ({
  ...{ id, name, mode, muted: false, weight: 1, parts: null, tracks: {}, spoken: null },
})

/** The graph of curves, as it is drawn while keys are dragged. */
import { compileTrack, trackValue } from '@marionette/core/clips/curve'
import { newKey } from '@marionette/core/clips/edits'
import { curvePoints, extent, handlePlaces, valueScale, type TimeScale } from '@marionette/core/clips/graph'
import type { Track } from '@marionette/core/clips/records'
import { nth } from '@marionette/core/kernel/sure'
import { measure, type Figure } from './measure'

const [TRACKS, KEYS, WIDTH, LENGTH] = [20, 100, 1000, 40]

function manyKeys(): Track[] {
  const ways = ['smooth', 'flat', 'linear'] as const
  return Array.from({ length: TRACKS }, (_, t) => ({
    keys: Array.from({ length: KEYS }, (_, k) => newKey((LENGTH * k) / KEYS, 30 * Math.sin(0.7 * k + t), null, ways[(k + t) % 3])),
    before: 'hold' as const,
    after: 'hold' as const,
  }))
}

/** All that is worked out for a picture of 2,000 keys: the values that they span, their curves, their handles. */
export function curveDrawFigure(): Figure {
  const tracks = manyKeys()
  const perSecond = WIDTH / LENGTH
  const scale: TimeScale = { width: WIDTH, perSecond, x: (time) => time * perSecond, time: (x) => x / perSecond }
  const compiled = tracks.map((track) => compileTrack(track))
  const sums = new Float64Array(1)
  return measure(
    'curve-draw-2000',
    TRACKS * KEYS,
    'points and handles of 20 curves of 100 keys across 1,000 px, against bare values of the same curves every 2 px',
    () => {
      // While keys are dragged each picture has tracks that are new.
      const moved = tracks.map((track) => ({ ...track, keys: [...track.keys] }))
      const { min, max } = extent(moved)
      const values = valueScale(min, max, 124)
      for (const track of moved) {
        sums[0]! += nth(curvePoints(track, scale, values, LENGTH), 1)
        for (let k = 0; k < KEYS; k++) sums[0]! += handlePlaces(track, k, scale, values).leave?.x ?? 0
      }
    },
    () => {
      for (const track of compiled) for (let x = 0; x <= WIDTH; x += 2) sums[0]! += trackValue(track, scale.time(x))
    },
  )
}

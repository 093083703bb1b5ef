/** The motion path on the stage: a dot for each frame, larger ones at keys, the moment in red. */
import { isSameTime } from '@marionette/core/clips/lookup'
import type { Clip } from '@marionette/core/clips/records'
import { limbUpTo } from '@marionette/core/bones/tree'
import type { Vec } from '@marionette/core/kernel/numbers'
import { addressesOf } from '@marionette/core/puppet/channels'
import { useDocument } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { useSession } from '../../editor/session'
import type { StageModel } from '../../editor/stageModel'
import { toScreen, type Camera } from '../../stage/camera'
import type { Mark } from '../../stage/marks'
import type { StageTheme } from '../../stage/theme'
import { clipNow, useActing } from './acting'
import { onPath, pathOf, shownFrames, spotNow } from './pathSpot'

/** Least distance of dots, px. */
const CLEAR = 5

/** Whether the path tool is in hand: then the path shows whatever is ticked, and while it is dragged. */
const isInHand = (editor: Editor): boolean => useSession.of(editor).getState().tools.rehearse === 'path'

/** Times at which the selected bone, or what leads to it, has keys. */
function keyTimes(editor: Editor, clip: Clip, { rig }: StageModel): number[] {
  const { selection } = useSession.of(editor).getState()
  const [id = ''] = selection.ids
  const owners = selection.kind === 'bone' ? limbUpTo(rig.puppet, id).map((bone) => ['bone', bone] as const) : [['part', id] as const]
  return clip.layers.flatMap(({ tracks }) =>
    owners.flatMap(([family, owner]) =>
      addressesOf(family, owner).flatMap((address) => tracks[address]?.keys.map((key) => key.time) ?? []),
    ),
  )
}

/** A dot of the path, screen px. */
export interface Dot extends Vec {
  readonly frame: number
  readonly isNow: boolean
  readonly isKey: boolean
}

/** The path as it shows now: all places in a row, and the dots on it; null where none shows. */
export function shownPath(editor: Editor, camera: Camera, model: StageModel): { line: Vec[]; dots: Dot[] } | null {
  const { showsPath, time, isPlaying } = useActing.of(editor).getState()
  const clip = clipNow(editor)
  if (!clip || isPlaying || !(showsPath || isInHand(editor))) return null
  if (useDocument.of(editor).getState().gesture !== null && !isInHand(editor)) return null
  const spot = spotNow(editor, model)
  if (!spot) return null
  const places = pathOf(editor, model.rig, clip, spot, time)
  const { from, to } = shownFrames(clip, time)
  const keyed = keyTimes(editor, clip, model)
  const line: Vec[] = []
  const dots: Dot[] = []
  let last = { x: Infinity, y: Infinity }
  for (let frame = from; frame <= to; frame++) {
    const place = places[frame]
    if (!place) continue
    const p = toScreen(camera, place)
    line.push(p)
    const isNow = frame === Math.round(time * clip.rate)
    const isKey = keyed.some((t) => isSameTime(t, frame / clip.rate))
    // Where it is slow, frames lie on each other: one dot stands for them.
    if (!isNow && !isKey && Math.hypot(p.x - last.x, p.y - last.y) < CLEAR) continue
    last = p
    dots.push({ ...p, frame, isNow, isKey })
  }
  return { line, dots }
}

function drawPath(pen: CanvasRenderingContext2D, { line, dots }: { line: Vec[]; dots: Dot[] }, colours: StageTheme): void {
  pen.strokeStyle = colours.ink
  pen.lineWidth = 1.25
  pen.setLineDash([2, 4])
  pen.beginPath()
  for (const p of line) pen.lineTo(p.x, p.y)
  pen.stroke()
  pen.setLineDash([])
  for (const { x, y, isNow, isKey } of [...dots].sort((a, b) => Number(a.isNow) - Number(b.isNow))) {
    pen.fillStyle = isNow ? colours.cord : isKey ? colours.panel : colours.ink
    pen.beginPath()
    pen.arc(x, y, isNow ? 4 : isKey ? 3 : 1.5, 0, 2 * Math.PI)
    pen.fill()
    if (isKey && !isNow) pen.stroke()
  }
}

export const motionPathMark: Mark = {
  layer: 'above',
  watch(editor, redraw) {
    onPath(editor, redraw)
    return useActing.of(editor).subscribe((s, before) => s.showsPath !== before.showsPath && redraw())
  },
  draw(editor, pen, camera, model, colours) {
    const path = shownPath(editor, camera, model)
    if (path) drawPath(pen, path, colours)
  },
}

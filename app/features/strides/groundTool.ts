/** Draws the ground that a stride walks on: a line from the left to the right; where it goes back it is drawn anew. */
import { MountainSnow } from 'lucide-react'
import { edit } from '@marionette/core/kernel/command'
import type { Vec } from '@marionette/core/puppet/schema'
import { setStride } from '@marionette/core/strides/commands'
import { openPuppet, perform } from '../../editor/document'
import { editorState, type Editor } from '../../editor/editor'
import { toScreen } from '../../stage/camera'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'

/** Spots of the line are this far apart, screen px. */
const APART = 6
const MOST = 400

const stateOf = editorState((): { line: Vec[] } => ({ line: [] }))

/** A line in order of x: a spot to the left of others takes their place. */
export function onwards(line: readonly Vec[], at: Vec): Vec[] {
  return [...line.filter(({ x }) => x < at.x), at]
}

/** The line drawn from the right to the left is the same one. */
export function groundOf(line: readonly Vec[]): Vec[] {
  const [first, last] = [line[0], line[line.length - 1]]
  if (!first || !last) return []
  const inOrder = first.x <= last.x ? line : [...line].reverse()
  const kept = inOrder.reduce<Vec[]>(onwards, [])
  const every = Math.ceil(kept.length / MOST)
  return kept.filter((_, k) => k % every === 0 || k === kept.length - 1).map(({ x, y }) => ({ x: Math.round(x), y: Math.round(y) }))
}

function keep(editor: Editor): void {
  const own = stateOf(editor)
  const ground = groundOf(own.line)
  own.line = []
  const [stride] = openPuppet(editor).strides
  if (!stride) return void editor.notify('Let it walk first: the ground is drawn for a stride.')
  if (ground.length > 1) perform(editor, [edit(setStride, { id: stride.id, ground, travels: true })], 'Draw the ground')
}

export const groundTool: Tool = {
  id: 'ground',
  name: 'Ground',
  words: 'uneven terrain hill floor walk',
  icon: MountainSnow,
  hint: [
    ['Drag', 'along the ground that it walks on'],
    ['Backspace', 'makes it even again'],
  ],
  cursor: 'crosshair',
  pointer(event: ToolEvent, host: ToolHost) {
    const own = stateOf(host.editor)
    if (event.type === 'down') own.line = [event.at]
    else if (event.type === 'move' && own.line.length > 0) {
      const last = own.line[own.line.length - 1] ?? event.at
      if (Math.hypot(event.at.x - last.x, event.at.y - last.y) > host.px(APART)) own.line = [...own.line, event.at]
    } else if (event.type === 'up') keep(host.editor)
    else if (event.type === 'cancel') own.line = []
    host.redraw()
  },
  key(key, host) {
    const [stride] = openPuppet(host.editor).strides
    if ((key !== 'Backspace' && key !== 'Delete') || !stride || stride.ground.length === 0) return false
    perform(host.editor, [edit(setStride, { id: stride.id, ground: [] })], 'Even ground')
    return true
  },
  draw(pen, host) {
    const { line } = stateOf(host.editor)
    const ground = line.length > 0 ? line : (openPuppet(host.editor).strides[0]?.ground ?? [])
    if (ground.length < 2) return
    pen.beginPath()
    ground.forEach((at, k) => {
      const { x, y } = toScreen(host.camera, at)
      if (k === 0) pen.moveTo(x, y)
      else pen.lineTo(x, y)
    })
    pen.lineWidth = 2.5
    pen.strokeStyle = getComputedStyle(pen.canvas).getPropertyValue('--cord')
    pen.stroke()
  },
  cancel(editor) {
    stateOf(editor).line = []
  },
}

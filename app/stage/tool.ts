/**
 * Tools: small state machines with the same life (enter, pointer, cancel, leave). They see pointer records in canvas
 * space, never the DOM, and change the puppet through commands only.
 */
import type { LucideIcon } from 'lucide-react'
import type { ComponentType } from 'react'
import type { Vec } from '@marionette/core/puppet/schema'
import type { StageModel } from '../editor/stageModel'
import type { Editor } from '../editor/editor'
import type { Camera } from './camera'

export interface ToolEvent {
  readonly type: 'down' | 'move' | 'up' | 'cancel' | 'hover'
  /** On the canvas, px. */
  readonly at: Vec
  /** Whether the pointer has left the spot of the press by more than a few screen pixels. */
  readonly dragging: boolean
  readonly shift: boolean
  readonly alt: boolean
  /** Of a pen, 0 to 1; null for what presses or does not, a mouse or a finger. */
  readonly pressure: number | null
}

export interface ToolHost {
  readonly editor: Editor
  readonly camera: Camera
  readonly model: StageModel
  /** Canvas px that look like so many screen px. */
  px(screen: number): number
  /** Draws what lies over the artwork anew. */
  redraw(): void
  /** Draws the artwork anew, too: for what changes without the document. */
  repaint(): void
}

export type ToolIcon = LucideIcon | ComponentType<{ size?: number; className?: string }>

export interface Tool {
  readonly id: string
  readonly name: string
  /** Other words by which people look for it. */
  readonly words?: string
  readonly icon: ToolIcon
  /** What a click or drag does, as pairs of a stressed beginning and the rest. */
  readonly hint: readonly (readonly [string, string])[]
  /** The hint where it depends on what is selected or set; null for the usual one. */
  hintNow?(editor: Editor): Tool['hint'] | null
  /** Calls back when that may have become another one for other reasons than what is selected; returns how to end it. */
  watch?(editor: Editor, listener: () => void): () => void
  /** Whether Escape lets go of the selection where nothing is in progress. */
  readonly escapeDeselects?: boolean
  readonly cursor: string
  pointer(event: ToolEvent, host: ToolHost): void
  /** Cursor over a spot when it differs from the tool's own. */
  cursorAt?(at: Vec, host: ToolHost): string | null
  draw?(context: CanvasRenderingContext2D, host: ToolHost): void
  /** A key while the tool is in hand; tells whether it was taken. */
  key?(key: string, host: ToolHost, shift: boolean): boolean
  /** Lets go of what lasts between gestures, when another tool is taken. */
  leave?(editor: Editor): void
  /** Ends whatever is in progress; called on Escape, on lost focus and when another tool is taken. */
  cancel(editor: Editor): void
}

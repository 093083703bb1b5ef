/** Marks: what capabilities draw over the artwork, in screen pixels. */
import type { StageModel } from '../editor/stageModel'
import type { Camera } from './camera'
import type { StageTheme } from './theme'
import type { Editor } from '../editor/editor'

export interface Mark {
  /**
   * Among what is drawn over the artwork: below outlines, with the bones, above them, or last of all but the tool in hand. Those with bones
   * are told whether bones show.
   */
  readonly layer: 'below' | 'bones' | 'above' | 'last'
  /** Tells when it has something else to show than what the stage follows by itself; returns how to end that. */
  watch?(editor: Editor, redraw: () => void): () => void
  draw(editor: Editor, pen: CanvasRenderingContext2D, camera: Camera, model: StageModel, colours: StageTheme, showsBones: boolean): void
}

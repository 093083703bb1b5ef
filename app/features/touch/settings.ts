/** What the touch-up tools are set to, and which points are selected. It is no part of the puppet. */
import type { Falloff } from '@marionette/core/artwork/touch/softPull'
import { useDocument } from '../../editor/document'
import { useSession } from '../../editor/session'
import type { Swatch } from '@marionette/core/artwork/records'
import { editorStore, type Editor } from '../../editor/editor'

export type PointMode = 'move' | 'thickness'
export type PaintMode = 'ink' | 'line' | 'pick' | 'gradient'

interface TouchState {
  /** Selected points, by their ids in the drawing of the selected part. */
  readonly points: ReadonlySet<number>
  /** The chosen edge of a picture's mesh. */
  readonly edge: readonly [number, number] | null
  /** The shape whose gradient shows its handles. */
  readonly shape: number | null
  readonly pointMode: PointMode
  readonly paintMode: PaintMode
  readonly figure: 'oval' | 'box'
  /** How far a drawn curve may lie from the hand, px, and whether ends that meet are closed. */
  readonly tolerance: number
  readonly closes: boolean
  /** Reach of a soft pull, canvas px. */
  readonly radius: number
  readonly falloff: Falloff
  readonly snaps: boolean
  /** What new outlines are painted with; null paints none. A swatch of the palette goes before the ink. */
  readonly ink: string | null
  readonly line: string | null
  readonly width: number
  readonly swatch: string | null
}

export const useTouch = editorStore<TouchState>(() => ({
  points: new Set(),
  edge: null,
  shape: null,
  pointMode: 'move',
  paintMode: 'ink',
  figure: 'oval',
  tolerance: 2,
  closes: true,
  radius: 60,
  falloff: 'smooth',
  snaps: false,
  ink: '#d9956a',
  line: '#2b1d1a',
  width: 4,
  swatch: null,
}))

export const selectPoints = (editor: Editor, points: Iterable<number>): void =>
  useTouch.of(editor).setState({ points: new Set(points), edge: null })

/** The ink that is painted with, and the swatch that it follows. */
export function currentInk(palette: readonly Swatch[], { ink, swatch }: Pick<TouchState, 'ink' | 'swatch'>) {
  const followed = palette.find((s) => s.id === swatch)
  return { ink: followed?.colour ?? ink, swatch: followed?.id ?? null }
}

// Points and shapes are numbers of one drawing: they mean nothing in that of another part, or of another view.
const forget = (editor: Editor): void => useTouch.of(editor).setState({ points: new Set(), edge: null, shape: null })

/** Selects no points any more when another drawing, or another view, is looked at; returns how to end this. */
export function forgetWithDrawing(editor: Editor): () => void {
  const ends = [
    useSession.of(editor).subscribe(({ selection: now }, { selection: before }) => {
      if (now.kind !== before.kind || now.ids[0] !== before.ids[0]) forget(editor)
    }),
    useDocument.of(editor).subscribe((now, before) => {
      if (now.puppet?.view !== before.puppet?.view) forget(editor)
    }),
  ]
  return () => ends.forEach((end) => end())
}

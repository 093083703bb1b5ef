/** Pose pins: spots that stay where they are while the puppet is pulled. They last as long as it is open and belong to no document. */
import type { PosePin } from '@marionette/core/posing/pins'
import { editorStore, type Editor } from '../../editor/editor'

export const usePosePins = editorStore<{ pins: readonly PosePin[] }>(() => ({ pins: [] }))

export const posePinsNow = (editor: Editor): readonly PosePin[] => usePosePins.of(editor).getState().pins
export const addPosePin = (editor: Editor, pin: PosePin): void => usePosePins.of(editor).setState((s) => ({ pins: [...s.pins, pin] }))
export const removePosePin = (editor: Editor, pin: PosePin): void =>
  usePosePins.of(editor).setState((s) => ({ pins: s.pins.filter((n) => n !== pin) }))
export const removePosePins = (editor: Editor): void => usePosePins.of(editor).setState({ pins: [] })

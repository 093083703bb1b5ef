/** What a drag with the tool for drawing bones lays: one bone, or a chain of several along a curve. */
import { editorStore } from '../../editor/editor'

interface DrawBonesState {
  way: 'bone' | 'curve'
  /** Bones of a chain along a curve. */
  count: number
}

export const useDrawBones = editorStore<DrawBonesState>(() => ({ way: 'bone', count: 4 }))

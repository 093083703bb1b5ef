/** Which deformer of the selected part is worked on, and which of its handles. */
import type { StiffnessMode } from '@marionette/core/deformers/stiffness'
import type { Deformer, Part } from '@marionette/core/puppet/schema'
import { editorStore, type Editor } from '../../editor/editor'

interface DeformState {
  deformer: string | null
  handle: string | null
  /** What a drag does where pins are worked on: moves handles, or paints how stiff the mesh is. */
  way: 'handles' | 'stiffness'
  mode: StiffnessMode
  /** Canvas px, and 0 to 100. */
  radius: number
  strength: number
}

export const useDeform = editorStore<DeformState>(() => ({
  deformer: null,
  handle: null,
  way: 'handles',
  mode: 'stiffer',
  radius: 60,
  strength: 50,
}))

/** The deformer of a part that is worked on: the chosen one, else the last of the stack. */
export const deformerOf = (part: Pick<Part, 'deformers'> | undefined, chosen: string | null): Deformer | null =>
  part?.deformers.find((d) => d.id === chosen) ?? part?.deformers.at(-1) ?? null

export const chooseDeformer = (editor: Editor, deformer: string | null): void => useDeform.of(editor).setState({ deformer, handle: null })

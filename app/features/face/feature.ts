/** The face in the interface: mouths and eyes, moods and sounds, swaps. */
import { yieldToPoses } from './playing'
import { lazy } from 'react'
import { takeMood } from '@marionette/core/poses/saved'
import { edit } from '@marionette/core/kernel/command'
import { perform } from '../../editor/document'
import type { Feature } from '../../panels/feature'
import { FACE_ACTIONS } from './actions'

export const face: Feature = {
  name: 'face',
  connect: yieldToPoses,
  actions: FACE_ACTIONS,
  // Mouth shapes are held over an expression, not taken up: they are found on the board alone.
  finds: ({ poses }) =>
    poses
      .filter((p) => p.face === 'mood')
      .map(({ id, name }) => ({
        ...{ id, name, kind: 'Expression', benches: [] },
        show: (editor) => perform(editor, [edit(takeMood, { mood: id, share: 1 })], `Take up ${name}`),
      })),
  sheets: {
    mouth: lazy(() => import('./MouthSheet')),
    eyes: lazy(() => import('./EyesSheet')),
    faces: lazy(() => import('./FacesSheet')),
    morphing: lazy(() => import('./MorphSheet')),
  },
}

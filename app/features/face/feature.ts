/** The face in the interface: mouths and eyes, moods and sounds, swaps. */
import { yieldToPoses } from './playing'
import { lazy } from 'react'
import type { Feature } from '../../panels/feature'
import { FACE_ACTIONS } from './actions'

export const face: Feature = {
  name: 'face',
  connect: yieldToPoses,
  actions: FACE_ACTIONS,
  sheets: {
    mouth: lazy(() => import('./MouthSheet')),
    eyes: lazy(() => import('./EyesSheet')),
    faces: lazy(() => import('./FacesSheet')),
    morphing: lazy(() => import('./MorphSheet')),
  },
}

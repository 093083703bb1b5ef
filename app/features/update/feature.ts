/** New versions of artwork in the interface. */
import { lazy } from 'react'
import type { Feature } from '../../panels/feature'
import { UPDATE_ACTIONS } from './actions'

export const update: Feature = { name: 'update', actions: UPDATE_ACTIONS, sheets: { update: lazy(() => import('./UpdateSheet')) } }

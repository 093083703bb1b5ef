/** Templates in the interface. */
import { lazy } from 'react'
import type { Feature } from '../../panels/feature'
import { TEMPLATE_ACTIONS } from './actions'

export const templates: Feature = { name: 'templates', actions: TEMPLATE_ACTIONS, sheets: { fit: lazy(() => import('./FitSheet')) } }

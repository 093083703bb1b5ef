/** Views in the interface. */
import { lazy } from 'react'
import { withId } from '../../panels/about'
import type { Feature } from '../../panels/feature'
import { VIEW_ACTIONS } from './actions'
import { ViewPick } from './ViewPick'
import { PartViews, ViewsGroup } from './ViewsGroup'

export const views: Feature = {
  name: 'views',
  details: [
    { about: 'part', place: 100, Group: withId(PartViews) },
    { about: 'puppet', place: 40, Group: ViewsGroup },
  ],
  bars: [ViewPick],
  actions: VIEW_ACTIONS,
  sheets: { cells: lazy(() => import('./CellsSheet')) },
}

/** Springs in the interface. */
import { lazy } from 'react'
import { withBone } from '../../panels/about'
import { chosen } from '../../panels/chosen'
import type { Feature, Seen } from '../../panels/feature'
import { selectBones } from '../../editor/session'
import { BodyGroup } from './BodyGroup'
import { leaveOut, makeSprings } from './making'
import { springMarks } from './marks'
import { endShaking } from './shaker'

const SpringsGroup = lazy(() => import('./SpringsGroup').then(({ SpringsGroup: Own }) => ({ default: Own })))
const AroundGroup = lazy(() => import('./AroundGroup'))

const isSetUp = ({ bench }: Seen): boolean => bench === 'bones' || bench === 'rehearse'

export const springs: Feature = {
  name: 'springs',
  connect: endShaking,
  mends: { 'spring-undriven': { label: 'Leave it out', run: (editor, { target }) => leaveOut(editor, target.id) } },
  details: [
    { about: 'bone', place: 40, shows: isSetUp, Group: SpringsGroup },
    { about: 'bone', place: 65, shows: isSetUp, Group: withBone(BodyGroup) },
    { about: 'puppet', place: 59, shows: (seen) => isSetUp(seen) && seen.puppet.springs.length > 0, Group: AroundGroup },
  ],
  marks: [springMarks],
  actions: [
    {
      id: 'springs.add',
      label: 'Let the selected bones swing',
      words: 'spring dangle secondary motion physics jiggle',
      group: 'Parts and bones',
      enabled: (editor) => chosen(editor, 'bone').length > 0,
      run: ({ editor }) => makeSprings(editor, chosen(editor, 'bone'), 'hair'),
    },
  ],
  finds: ({ springs: all }) =>
    all.map(({ id, name, bones }) => ({
      ...{ id, name, kind: 'Springs', benches: ['bones', 'rehearse'] },
      show: (editor) => selectBones(editor, bones[0] ?? ''),
    })),
}

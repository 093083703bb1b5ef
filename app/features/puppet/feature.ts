/** The puppet as a whole in the interface. */
import type { Feature } from '../../panels/feature'
import { PuppetDetails } from './PuppetDetails'
import { GuidesGroup, ReferenceGroup } from './ReferenceGroup'

export const puppet: Feature = {
  name: 'puppet',
  details: [
    { about: 'puppet', place: 10, Group: PuppetDetails },
    { about: 'puppet', place: 70, Group: ReferenceGroup },
    { about: 'puppet', place: 80, Group: GuidesGroup },
  ],
}

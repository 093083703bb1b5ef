/** Bones in the interface. */
import { withBone, withId } from '../../panels/about'
import { inBelts, type Feature, type Seen } from '../../panels/feature'
import { BONE_ACTIONS } from './actions'
import { BoneHeading, BonePose, ColourGroup, DeleteGroup, FollowersGroup, LimitsGroup, RestGroup } from './BoneDetails'
import { BoneMakingGroup, LabelField } from './BoneMakingGroup'
import { moveBonesTool } from './bonesTool'
import { selectBones } from '../../editor/session'
import { DrawBonesBar } from './DrawBonesBar'
import { drawBonesTool } from './drawBonesTool'
import { limitsTool } from './limitsTool'
import { InfluenceGroup, NatureGroup } from './NatureGroup'

const isAtRest = ({ bench }: Seen): boolean => bench === 'bones'

export const bones: Feature = {
  name: 'bones',
  details: [
    { about: 'bone', place: 10, Group: BoneHeading },
    { about: 'bone', place: 20, shows: isAtRest, Group: withBone(RestGroup) },
    { about: 'bone', place: 20, shows: (seen) => !isAtRest(seen), Group: withBone(BonePose) },
    { about: 'bone', place: 60, Group: withBone(LimitsGroup) },
    { about: 'bone', place: 70, shows: isAtRest, Group: withBone(NatureGroup) },
    { about: 'bone', place: 80, shows: isAtRest, Group: withBone(InfluenceGroup) },
    { about: 'bone', place: 90, Group: withBone(ColourGroup) },
    { about: 'bone', place: 100, Group: LabelField },
    { about: 'bone', place: 110, shows: isAtRest, Group: BoneMakingGroup },
    { about: 'bone', place: 120, Group: withId(FollowersGroup) },
    { about: 'bone', place: 130, shows: isAtRest, Group: withBone(DeleteGroup) },
  ],
  tools: [...inBelts(moveBonesTool, { bones: 10 }), ...inBelts(drawBonesTool, { bones: 20 }), ...inBelts(limitsTool, { bones: 50 })],
  bars: [DrawBonesBar],
  actions: BONE_ACTIONS,
  finds: ({ bones: all }) =>
    Object.values(all).map(({ id, name }) => ({ id, name, kind: 'Bone', benches: [], show: (editor) => selectBones(editor, id) })),
}

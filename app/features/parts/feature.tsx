/** Parts in the interface. */
import { lazy } from 'react'
import { inBelts, type Feature, type Seen } from '../../panels/feature'
import { withPart } from '../../panels/about'
import { PART_ACTIONS } from './actions'
import { ArtworkGroup } from './ArtworkGroup'
import { MergeGroup } from './MergeGroup'
import { NotesGroup } from './NotesGroup'
import { HomeGroup, LookGroup, PartHeading, PictureDetails, PoseGroup } from './PartDetails'
import { homeTool, movePartTool } from './placeTool'
import { pivotTool } from './pivotTool'
import { selectTool } from './selectTool'
import { selectParts } from '../../editor/session'

const isAtRest = ({ bench }: Seen): boolean => bench === 'bones'
const isNotRoot = ({ puppet, ids }: Seen): boolean => ids[0] !== puppet.root
const isFullGroup = (seen: Seen): boolean => {
  const part = seen.puppet.parts[seen.ids[0] ?? '']
  return isNotRoot(seen) && part?.content.kind === 'group' && part.children.length > 0
}

export const parts: Feature = {
  name: 'parts',
  details: [
    { about: 'part', place: 10, Group: PartHeading },
    { about: 'part', place: 20, shows: isAtRest, Group: HomeGroup },
    { about: 'part', place: 20, shows: (seen) => !isAtRest(seen), Group: PoseGroup },
    { about: 'part', place: 70, Group: PictureDetails },
    { about: 'part', place: 80, shows: isNotRoot, Group: LookGroup },
    { about: 'part', place: 90, shows: isFullGroup, Group: withPart(MergeGroup) },
    { about: 'part', place: 130, shows: isNotRoot, Group: withPart(NotesGroup) },
    { about: 'puppet', place: 60, Group: ArtworkGroup },
  ],
  tools: [
    ...inBelts(selectTool, { parts: 10, face: 20 }),
    ...inBelts(movePartTool, { parts: 30, shape: 20, face: 30, rehearse: 20, send: 20 }),
    ...inBelts(pivotTool, { bones: 30 }),
    ...inBelts(homeTool, { bones: 40 }),
  ],
  actions: PART_ACTIONS,
  finds: ({ parts: all }) =>
    Object.values(all).map(({ id, name }) => ({ id, name, kind: 'Part', benches: [], show: (editor) => selectParts(editor, id) })),
  sheets: { rename: lazy(() => import('./RenameSheet')), names: lazy(() => import('./NamesSheet')) },
}

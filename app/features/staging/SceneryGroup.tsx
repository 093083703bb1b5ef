/** Whether a part is scenery: it stands still whatever the puppet does, behind it or in front of it. */
import { useEditor } from '../../editor/editor'
import { usePuppet } from '../../editor/document'
import { Group } from '../../panels/Group'
import { Segments } from '../../ui/Segments'
import { KINDS, makeScenery } from './scenery'

export default function SceneryGroup({ ids }: { ids: readonly string[] }) {
  const editor = useEditor()
  const where = usePuppet((p) => p.stage.scenery.find((s) => s.part === ids[0])?.where ?? 'puppet')
  return (
    <Group id="scenery" title="Belongs to">
      <Segments label="Belongs to" value={where} options={KINDS} onChange={(kind) => makeScenery(editor, ids, kind)} />
      {where !== 'puppet' && <p className="cap mt-1.5">Scenery stands still whatever the puppet does, and casts no shadow.</p>}
    </Group>
  )
}

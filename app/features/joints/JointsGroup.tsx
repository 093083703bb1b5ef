/** The joints of the puppet, or of one part, with the way to each. */
import { usePuppet, useDocument } from '../../editor/document'
import { makeProposedJoints, selectJoint } from './making'
import { useSession } from '../../editor/session'
import { sweepJoints, sweepOf, useSweeps } from './sweeps'
import { GradeMark } from './GradeMark'
import { Button } from '../../ui/Button'
import { Group } from '../../panels/Group'
import { useEditor } from '../../editor/editor'

export function JointsGroup({ part }: { part?: string }) {
  const editor = useEditor()
  const joints = usePuppet((p) => p.joints)
  const parts = usePuppet((p) => p.parts)
  const bench = useSession((s) => s.bench)
  const shown = Object.values(joints).filter((j) => !part || j.under === part || j.over === part)
  if (bench !== 'parts' || (part && shown.length === 0)) return null
  const open = (id: string): void => {
    selectJoint(editor, id)
  }
  return (
    <Group id="joints" title="Joints" aside={<span className="num text-xs text-quiet">{shown.length}</span>}>
      <ul>
        {shown.map((j) => (
          <li key={j.id}>
            <button
              type="button"
              onClick={() => open(j.id)}
              className="flex h-7 w-full items-center gap-2 rounded-md px-1 text-left hover:bg-tint"
            >
              <span className="min-w-0 flex-1 truncate">
                {parts[j.over]?.name} <span className="text-quiet">on {parts[j.under]?.name}</span>
              </span>
              <Verdict id={j.id} />
            </button>
          </li>
        ))}
      </ul>
      {!part && (
        <div className="mt-2 flex flex-wrap gap-2">
          <Button small onClick={() => void makeProposedJoints(editor)}>
            Propose joints
          </Button>
          {shown.length > 0 && (
            <Button
              small
              onClick={() =>
                void sweepJoints(
                  editor,
                  shown.map((j) => j.id),
                )
              }
            >
              Test all ranges
            </Button>
          )}
        </div>
      )}
    </Group>
  )
}

function Verdict({ id }: { id: string }) {
  const state = useSweeps()
  const swept = useDocument((s) => (s.puppet ? sweepOf(state, s.puppet, id) : null))
  if (state.running?.joint === id) return <span className="num text-xs text-quiet">{Math.round(100 * state.running.done)}%</span>
  if (!swept) return null
  return <GradeMark fault={swept.sweep.verdict} />
}

/** The parts with the roles they play: what needs a look first, then all others. Rows can be dragged onto the figure. */
import { useMemo } from 'react'
import { useDraggable } from '@dnd-kit/core'
import { AlertTriangle } from 'lucide-react'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { drawingOf, partsBelow } from '@marionette/core/parts/tree'
import { renamePart } from '@marionette/core/parts/commands'
import { roleLabel } from '@marionette/core/roles/roles'
import { perform } from '../../editor/document'
import { Thumb } from '../../pictures/Thumb'
import { rivalledRole, type Given, type Played, type Reading } from './fitting'
import { Button } from '../../ui/Button'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { partOf } from '@marionette/core/parts/lookup'
import { Pick, type Option } from '../../ui/Pick'

interface PartRolesProps {
  readonly puppet: Puppet
  readonly reading: Reading
  readonly given: Given
  /** Role whose part is looked for; its candidates stand first. */
  readonly wanted: string | null
  /** A part plays a role together with those that play it. */
  readonly onShare: (part: string, role: string) => void
  readonly onGive: (part: string, role: string | null) => void
}

/** Why a part needs a look; null where all is well. */
function doubtOf(part: Part, puppet: Puppet, reading: Reading): string | null {
  const { assignment, byPart } = reading
  const rivalled = rivalledRole(reading, part.id)
  const player = rivalled === null ? undefined : assignment.roles.get(rivalled)
  if (rivalled !== null && player) return `${roleLabel(rivalled)} as well; "${partOf(puppet, player.part).name}" was taken`
  if (assignment.sideless.some((m) => m.id === part.id)) return 'does not say which side'
  if (assignment.twice.has(part.name)) return 'several parts have this name'
  const played = byPart.get(part.id)
  return played && played.grade !== 'sure' ? played.assigned.doubt || 'not sure' : null
}

const RANK = (played: Played | undefined, doubt: string | null): number => (doubt ? 0 : played ? 1 : 2)

export function PartRoles({ puppet, reading, given, wanted, onGive, onShare }: PartRolesProps) {
  const roles = useMemo(() => [{ id: '', label: 'No role' }, ...reading.roles.map((id) => ({ id, label: roleLabel(id) }))], [reading.roles])
  const shown = partsBelow(puppet, puppet.root)
    .slice(1)
    .filter((p) => reading.byPart.has(p.id) || drawingOf(puppet, p))
    .map((part) => ({ part, played: reading.byPart.get(part.id), doubt: doubtOf(part, puppet, reading) }))
    .sort(
      (a, b) => Number(b.played?.role === wanted) - Number(a.played?.role === wanted) || RANK(a.played, a.doubt) - RANK(b.played, b.doubt),
    )
  return (
    <div className="min-w-0">
      <ul aria-label="Parts and their roles" className="scroll-thin h-[432px] overflow-y-auto">
        {shown.map(({ part, played, doubt }) => (
          <Row
            key={part.id}
            part={part}
            played={played}
            doubt={doubt}
            roles={roles}
            isGiven={given.has(part.id)}
            isTwice={reading.assignment.twice.has(part.name)}
            isWanted={wanted !== null && played?.role === wanted}
            onGive={onGive}
            rivalled={rivalledRole(reading, part.id)}
            onShare={onShare}
          />
        ))}
      </ul>
    </div>
  )
}

interface RowProps {
  readonly part: Part
  readonly played: Played | undefined
  readonly doubt: string | null
  readonly roles: readonly Option[]
  readonly isGiven: boolean
  readonly isTwice: boolean
  readonly isWanted: boolean
  readonly onGive: (part: string, role: string | null) => void
  /** The role that it could share. */
  readonly rivalled: string | null
  readonly onShare: (part: string, role: string) => void
}

function Row({ part, played, doubt, roles, isGiven, isTwice, isWanted, onGive, rivalled, onShare }: RowProps) {
  const editor = useEditor()
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: part.id })
  return (
    <li className={`flex items-center gap-2 border-b border-hair py-1 ${isWanted ? 'bg-cord-soft' : ''}`}>
      <span
        ref={setNodeRef}
        {...listeners}
        title="Drag onto the figure"
        className={`flex min-w-0 flex-1 cursor-grab items-center gap-2 ${isDragging ? 'opacity-40' : ''}`}
      >
        <Thumb kind="part" id={part.id} size={28} />
        <span className="min-w-0">
          <span className="block truncate">{part.name}</span>
          {doubt && (
            <span className="flex items-center gap-1 text-[11px]/[14px] text-brass-ink">
              <AlertTriangle size={11} className="flex-none" />{' '}
              <span className="truncate" title={doubt}>
                {doubt}
              </span>
            </span>
          )}
        </span>
      </span>
      {rivalled !== null && (
        <Button small title={`Both play ${roleLabel(rivalled)}`} onClick={() => onShare(part.id, rivalled)}>
          Share
        </Button>
      )}
      {isTwice && (
        <input
          aria-label={`New name for ${part.name}`}
          placeholder="New name"
          className="w-24 border-b border-hair bg-transparent text-xs outline-none focus:border-ink"
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter') e.currentTarget.blur()
          }}
          onBlur={(e) => e.target.value.trim() && perform(editor, [edit(renamePart, { part: part.id, name: e.target.value.trim() })])}
        />
      )}
      <Pick
        label={`Role of ${part.name}`}
        value={played?.role ?? ''}
        onChange={(role) => onGive(part.id, role === '' ? null : role)}
        options={roles}
        width="w-[150px] flex-none"
      />
      <span
        className={`num w-9 flex-none text-right text-xs ${played ? (played.grade === 'sure' ? 'text-verdigris' : 'text-brass-ink') : 'text-quiet'}`}
      >
        {isGiven ? 'given' : played ? `${Math.round(100 * played.assigned.certainty)}%` : ''}
      </span>
    </li>
  )
}

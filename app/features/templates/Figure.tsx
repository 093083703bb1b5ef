/** A template as a small figure; its roles are places on which parts can be dropped. */
import { useDroppable } from '@dnd-kit/core'
import { roleLabel } from '@marionette/core/roles/roles'
import type { Template } from '@marionette/core/templates/template'
import type { Reading } from './fitting'
import { nth } from '@marionette/core/kernel/sure'

interface FigureProps {
  readonly template: Template
  readonly reading: Reading
  readonly nameOf: (part: string) => string
  readonly chosen: string | null
  readonly onChoose: (role: string) => void
}

const COLOURS = { sure: 'var(--verdigris)', likely: 'var(--brass)', guess: 'var(--brass)' } as const

export function Figure({ template, reading, nameOf, chosen, onChoose }: FigureProps) {
  const slots = slotsOf(template, reading)
  const carried = [...new Set(template.carried.map((c) => c.role))]
  return (
    <div className="flex min-h-0 flex-col">
      <div className="stage-body relative mx-auto aspect-[108/104] h-[310px] flex-none overflow-hidden rounded-2xl">
        <svg viewBox="-4 -2 108 104" className="absolute inset-0 h-full w-full" aria-hidden>
          {template.bones.map((b) => (
            <path
              key={b.key}
              d={rod(b.figure)}
              fill={`var(--chain-${b.colour})`}
              opacity={b.of.some((role) => reading.assignment.roles.has(role)) ? 0.75 : 0.18}
            />
          ))}
        </svg>
        {slots.map(({ role, via, x, y }) => (
          <Slot
            key={role}
            role={role}
            via={via}
            style={{ left: `${((x + 4) / 108) * 100}%`, top: `${((y + 2) / 104) * 100}%` }}
            reading={reading}
            nameOf={nameOf}
            isChosen={chosen === role}
            onChoose={onChoose}
          />
        ))}
      </div>
      <div
        className="scroll-thin mt-2 flex max-h-[112px] flex-wrap gap-1 overflow-y-auto p-0.5"
        role="group"
        aria-label="Roles that are carried along"
      >
        {carried.map((role) => (
          <Pill key={role} role={role} reading={reading} nameOf={nameOf} isChosen={chosen === role} onChoose={onChoose} />
        ))}
      </div>
    </div>
  )
}

/** One place for each role in which bones lie: in the middle of its first bone. `via` is another role that does for it. */
function slotsOf(template: Template, { assignment }: Reading): { role: string; via: string | null; x: number; y: number }[] {
  const seen = new Set<string>()
  return template.bones.flatMap(({ of, figure: [sx, sy, ex, ey] }) => {
    const role = nth(of, 0)
    const via = assignment.roles.has(role) ? null : (of.find((r) => assignment.roles.has(r)) ?? null)
    if (seen.has(role)) return []
    seen.add(role)
    return [{ role, via, x: (sx + ex) / 2, y: (sy + ey) / 2 }]
  })
}

/** A tapering rod from a bone's start to its end, on the figure. */
function rod([x0, y0, x1, y1]: readonly [number, number, number, number]): string {
  const length = Math.hypot(x1 - x0, y1 - y0) || 1
  const [nx, ny] = [(-(y1 - y0) / length) * 1.3, ((x1 - x0) / length) * 1.3]
  return `M${x0 + nx} ${y0 + ny}L${x1} ${y1}L${x0 - nx} ${y0 - ny}A1.3 1.3 0 0 1 ${x0 + nx} ${y0 + ny}Z`
}

interface SpotProps {
  readonly role: string
  readonly reading: Reading
  readonly nameOf: (part: string) => string
  readonly isChosen: boolean
  readonly onChoose: (role: string) => void
}

function titleOf({ role, reading, nameOf }: SpotProps, via: string | null = null): string {
  const played = reading.assignment.roles.get(role)
  const instead = via === null ? undefined : reading.assignment.roles.get(via)
  if (!played && instead) return `${roleLabel(role)}: nothing of its own, it is in ${nameOf(instead.part)}`
  if (!played) return `${roleLabel(role)}: nothing yet`
  return `${roleLabel(role)}: ${nameOf(played.part)}, ${Math.round(100 * played.certainty)}%`
}

function Slot(props: SpotProps & { readonly via: string | null; readonly style: React.CSSProperties }) {
  const { role, via, reading, isChosen, onChoose, style } = props
  const { setNodeRef, isOver } = useDroppable({ id: `role ${role}` })
  const played = reading.assignment.roles.get(via ?? role)
  const grade = played ? (reading.byPart.get(played.part)?.grade ?? 'sure') : null
  const clash = (played?.rivals.length ?? 0) > 0
  return (
    <button
      ref={setNodeRef}
      type="button"
      title={titleOf(props, via)}
      aria-label={titleOf(props, via)}
      aria-pressed={isChosen}
      data-over={isOver}
      onClick={() => onChoose(role)}
      style={{ ...style, ...(grade ? { background: COLOURS[grade] } : {}) }}
      className={`absolute size-[15px] -translate-1/2 rounded-full border-2 transition-transform ${grade ? 'border-[var(--halo)]' : 'border-dashed border-quiet bg-panel'} ${
        isOver || isChosen ? 'scale-150 shadow-[0_0_0_2px_var(--cord)]' : 'hover:scale-125'
      } ${clash ? 'shadow-[0_0_0_2px_var(--cord)]' : ''}`}
    />
  )
}

function Pill(props: SpotProps) {
  const { role, reading, isChosen, onChoose } = props
  const { setNodeRef, isOver } = useDroppable({ id: `role ${role}` })
  const played = reading.assignment.roles.get(role)
  return (
    <button
      ref={setNodeRef}
      type="button"
      title={titleOf(props)}
      aria-pressed={isChosen}
      onClick={() => onChoose(role)}
      className={`rounded-full px-2 text-[11px] leading-5 ${played ? 'bg-verdigris-soft text-ink' : 'bg-tint text-quiet'} ${isOver || isChosen ? 'shadow-[0_0_0_2px_var(--cord)]' : ''}`}
    >
      {roleLabel(role)}
    </button>
  )
}

/** Controls to take hold of: sliders, dials, pads, toggles and levers, by pointer and by keys. */
import { useRef, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react'
import { controlChannel, type Control, type Range } from '@marionette/core/puppet/schema'
import { openPuppet, usePuppet } from '../../editor/document'
import { valueSeen } from '../../editor/poseInverse'
import { axesFor, controlRange } from '@marionette/core/reports/randomPose'
import { dragControlTo, letGo, restControls, setControlTo, type Axis } from './setting'
import { useEditor, type Editor } from '../../editor/editor'
import { grip, GRIP } from '../../ui/grip'
import { nth, recordOf, sure } from '@marionette/core/kernel/sure'
import { Slider as RadixSlider, Switch } from 'radix-ui'

export const useControlValue = (control: Control, axis: Axis): number => {
  const editor = useEditor()
  return usePuppet(() => valueSeen(editor, controlChannel(control, axis)))
}

const shareOf = ({ min, max }: Range, v: number): number => Math.min(1, Math.max(0, (v - min) / (max - min)))
const at = ({ min, max }: Range, share: number): number => min + (max - min) * Math.min(1, Math.max(0, share))
const words = (v: number, { rest }: Range): string =>
  `${v > rest && rest === 0 ? '+' : ''}${Math.abs(v) < 10 ? v.toFixed(2) : v.toFixed(0)}`

type Values = Partial<Record<Axis, number>>

/** Takes the pointer until it lets go; `valuesAt` tells what a spot of the element means. */
function useHold(control: Control, valuesAt: (box: DOMRect, x: number, y: number, from: { x: number; y: number }) => Values) {
  const editor = useEditor()
  const held = useRef<{ box: DOMRect; from: { x: number; y: number } } | null>(null)
  const move = (e: PointerEvent): void => {
    if (held.current) dragControlTo(editor, control, valuesAt(held.current.box, e.clientX, e.clientY, held.current.from))
  }
  return {
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      if (e.button !== 0) return
      grip(e)
      held.current = { box: e.currentTarget.getBoundingClientRect(), from: { x: e.clientX, y: e.clientY } }
      move(e)
    },
    onPointerMove: move,
    onPointerUp: () => {
      if (held.current) letGo(editor, control)
      held.current = null
    },
    onPointerCancel: () => {
      if (held.current) letGo(editor, control, false)
      held.current = null
    },
    onDoubleClick: () => restControls(editor, [control]),
  }
}

/** Arrow keys step, Home goes to rest, End to the end of the range. */
function keysFor(editor: Editor, control: Control, ranges: Partial<Record<Axis, Range>>, values: Values) {
  const step = (axis: Axis, sign: number, isFine: boolean): void => {
    const range = ranges[axis]
    if (!range) return
    const by = control.step || (range.max - range.min) / (isFine ? 200 : 20)
    setControlTo(editor, control, { [axis]: recordOf(values, axis) + sign * by })
  }
  return (e: KeyboardEvent): void => {
    const isPad = ranges.y !== undefined
    const across: Axis = isPad ? 'x' : 'value'
    if (e.key === 'ArrowRight') step(across, 1, e.shiftKey)
    else if (e.key === 'ArrowLeft') step(across, -1, e.shiftKey)
    else if (e.key === 'ArrowUp') step(isPad ? 'y' : 'value', 1, e.shiftKey)
    else if (e.key === 'ArrowDown') step(isPad ? 'y' : 'value', -1, e.shiftKey)
    else if (e.key === 'Home' || e.key === '0') restControls(editor, [control])
    else if (e.key === 'End' && ranges.value) setControlTo(editor, control, { value: ranges.value.max })
    else return
    e.preventDefault()
    e.stopPropagation()
  }
}

/** The range along an axis; of a lever it follows the limits of its bone. */
function useRange(control: Control, axis: Axis): Range {
  const editor = useEditor()
  usePuppet((p) => (control.bone === null ? null : p.bones[control.bone]?.limits))
  return controlRange(openPuppet(editor), control, axis)
}

function useSingle(control: Control) {
  const editor = useEditor()
  const range = useRange(control, 'value')
  const value = useControlValue(control, 'value')
  const aria = {
    role: 'slider',
    tabIndex: 0,
    'aria-label': control.name,
    'aria-valuemin': range.min,
    'aria-valuemax': range.max,
    'aria-valuenow': value,
    onKeyDown: keysFor(editor, control, { value: range }, { value }),
  } as const
  return { range, value, aria }
}

const colourOf = (control: Control): string => `var(--chain-${control.colour})`

/** Steps of a slider that has none of its own: finer than can be seen. */
const FINE_STEPS = 2000

function Slider({ control, width }: { control: Control; width: number | string }) {
  const editor = useEditor()
  const { range, value, aria } = useSingle(control)
  const isHeld = useRef(false)
  const [rest, now] = [shareOf(range, range.rest), shareOf(range, value)]
  const end = (keeps: boolean): void => {
    if (isHeld.current) letGo(editor, control, keeps)
    isHeld.current = false
  }
  return (
    <RadixSlider.Root
      data-control={control.name}
      min={range.min}
      max={range.max}
      step={control.step || (range.max - range.min) / FINE_STEPS}
      value={[value]}
      onValueChange={([v]) => isHeld.current && dragControlTo(editor, control, { value: sure(v) })}
      onPointerDown={(e) => {
        if (e.button !== 0) return e.preventDefault()
        grip(e, e.target as Element)
        isHeld.current = true
      }}
      onPointerUp={() => end(true)}
      onPointerCancel={() => end(false)}
      onDoubleClick={() => restControls(editor, [control])}
      // Before the keys of the part itself, which know no fine step and no rest.
      onKeyDown={aria.onKeyDown}
      className={`relative flex h-6 flex-none cursor-pointer items-center rounded-md ${GRIP}`}
      style={{ width }}
    >
      <RadixSlider.Track className="absolute inset-x-0 top-[11px] h-0.5 rounded-full bg-twine">
        <i
          className="absolute inset-y-0 rounded-full"
          style={{ background: colourOf(control), left: `${Math.min(rest, now) * 100}%`, width: `${Math.abs(now - rest) * 100}%` }}
        />
      </RadixSlider.Track>
      <i className="absolute top-[8px] h-2 w-px bg-quiet" style={{ left: `${rest * 100}%` }} />
      <RadixSlider.Thumb
        aria-label={control.name}
        className="block size-3 rounded-full border-[2.5px] bg-panel"
        style={{ borderColor: colourOf(control) }}
      />
    </RadixSlider.Root>
  )
}

/** Degrees that a dial turns through. */
const SWEEP = 270

function Dial({ control, size }: { control: Control; size: number }) {
  const { range, value, aria } = useSingle(control)
  const start = useRef(value)
  // A dial is turned by dragging up, or to the right.
  const hold = useHold(control, (_, x, y, from) => ({
    value: at(range, shareOf(range, start.current) + (x - from.x - (y - from.y)) / 160),
  }))
  const angle = -SWEEP / 2 + SWEEP * shareOf(range, value)
  const rest = -SWEEP / 2 + SWEEP * shareOf(range, range.rest)
  const r = size / 2 - 3
  const spot = (deg: number, radius = r): string =>
    `${size / 2 + radius * Math.sin((deg * Math.PI) / 180)} ${size / 2 - radius * Math.cos((deg * Math.PI) / 180)}`
  const arc = (from: number, to: number): string =>
    `M${spot(from)}A${r} ${r} 0 ${Math.abs(to - from) > 180 ? 1 : 0} ${to > from ? 1 : 0} ${spot(to)}`
  return (
    <div
      {...aria}
      {...hold}
      onPointerDown={(e) => {
        start.current = value
        hold.onPointerDown(e)
      }}
      className={`flex-none cursor-pointer rounded-full ${GRIP}`}
      style={{ width: size, height: size }}
    >
      <svg width={size} height={size} fill="none" strokeLinecap="round" strokeWidth={2.5} aria-hidden>
        <path d={arc(-SWEEP / 2, SWEEP / 2)} stroke="var(--twine)" />
        {Math.abs(angle - rest) > 0.5 && <path d={arc(rest, angle)} stroke={colourOf(control)} />}
        <circle cx={size / 2} cy={size / 2} r={r - 5} fill="var(--panel)" stroke="var(--hair)" strokeWidth={1} />
        <path d={`M${spot(angle, 2)}L${spot(angle, r - 7)}`} stroke="var(--ink)" />
      </svg>
    </div>
  )
}

function Pad({ control, size, children }: { control: Control; size: number; children?: ReactNode }) {
  const editor = useEditor()
  const [rx, ry] = [control.range, sure(control.up)]
  const x = useControlValue(control, 'x')
  const y = useControlValue(control, 'y')
  const hold = useHold(control, (box, px, py) => ({
    x: at(rx, (px - box.left) / box.width),
    y: at(ry, 1 - (py - box.top) / box.height),
  }))
  const left = (v: number): string => `${shareOf(rx, v) * 100}%`
  const top = (v: number): string => `${(1 - shareOf(ry, v)) * 100}%`
  return (
    <div
      role="group"
      aria-roledescription="pad"
      aria-label={control.name}
      tabIndex={0}
      onKeyDown={keysFor(editor, control, { x: rx, y: ry }, { x, y })}
      {...hold}
      className={`relative flex-none cursor-crosshair rounded-lg bg-tint ${GRIP}`}
      style={{ width: size, height: size }}
    >
      <i className="absolute inset-y-1.5 w-px bg-twine" style={{ left: left(rx.rest) }} />
      <i className="absolute inset-x-1.5 h-px bg-twine" style={{ top: top(ry.rest) }} />
      {children}
      <i
        className="pointer-events-none absolute -mt-[5px] -ml-[5px] size-2.5 rounded-full ring-2 ring-panel"
        style={{ left: left(x), top: top(y), background: colourOf(control) }}
      />
      <span className="sr-only" role="status">
        {words(x, rx)} right, {words(y, ry)} up
      </span>
    </div>
  )
}

function Toggle({ control }: { control: Control }) {
  const editor = useEditor()
  const value = useControlValue(control, 'value')
  const { min, max, rest } = control.range
  const isOn = value > (min + max) / 2
  return (
    <Switch.Root
      checked={isOn}
      aria-label={control.name}
      onCheckedChange={() => setControlTo(editor, control, { value: isOn ? (rest === max ? min : rest) : max })}
      className={`relative h-[18px] w-8 flex-none rounded-full transition-colors ${isOn ? '' : 'bg-twine'}`}
      style={isOn ? { background: colourOf(control) } : undefined}
    >
      <Switch.Thumb className={`absolute top-0.5 size-3.5 rounded-full bg-panel transition-[left] ${isOn ? 'left-4' : 'left-0.5'}`} />
    </Switch.Root>
  )
}

interface WidgetProps {
  readonly control: Control
  /** Px of a pad or dial, or width of a slider. */
  readonly size?: number | undefined
  readonly children?: ReactNode
}

export function ControlWidget({ control, size, children }: WidgetProps) {
  if (control.kind === 'pad')
    return (
      <Pad control={control} size={size ?? 96}>
        {children}
      </Pad>
    )
  if (control.kind === 'dial') return <Dial control={control} size={size ?? 40} />
  if (control.kind === 'toggle') return <Toggle control={control} />
  return <Slider control={control} width={size ?? 120} />
}

/** The value of a control in figures. */
export function ControlFigures({ control }: { control: Control }) {
  const first = nth(axesFor(control), 0)
  const a = useControlValue(control, first)
  const b = useControlValue(control, control.kind === 'pad' ? 'y' : first)
  const range = useRange(control, first)
  if (control.kind === 'toggle') return null
  return (
    <span className="num text-[11px] text-quiet">
      {words(a, range)}
      {control.kind === 'pad' && ` ${words(b, sure(control.up))}`}
      {control.kind === 'lever' && '°'}
    </span>
  )
}

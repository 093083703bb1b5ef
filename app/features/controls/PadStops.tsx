/** Where on a pad something was recorded: a ring for each stop of responses that answer to both of its ways. */
import type { Control, Input } from '@marionette/core/puppet/schema'
import { controlChannel } from '@marionette/core/puppet/schema'
import { useRecording } from '../responses/recording'
import { usePuppet } from '../../editor/document'
import { nth, sure } from '@marionette/core/kernel/sure'

const isAxis = (input: Input | undefined, control: Control, axis: 'x' | 'y'): boolean =>
  input?.kind === 'channel' && input.channel === controlChannel(control, axis)

export function PadStops({ control }: { control: Control }) {
  const responses = usePuppet((p) => p.responses)
  const recording = useRecording((s) => s.recording)
  const own = responses.filter((r) => r.kind === 'pad' && isAxis(r.inputs[0], control, 'x') && isAxis(r.inputs[1], control, 'y'))
  const share = (v: number, { min, max }: { min: number; max: number }): number => ((v - min) / (max - min)) * 100
  return (
    <>
      {own
        .flatMap((r) => r.stops)
        .map((stop) => (
          <i
            key={stop.id}
            className={`pointer-events-none absolute -mt-1 -ml-1 size-2 rounded-full border-[1.5px] ${recording?.stop === stop.id ? 'border-cord bg-cord' : 'border-quiet'}`}
            style={{ left: `${share(nth(stop.at, 0), control.range)}%`, top: `${100 - share(nth(stop.at, 1), sure(control.up))}%` }}
          />
        ))}
    </>
  )
}

/** Faults, area and speed along a run. */
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import type { RangeRun } from '@marionette/core/rangeTest/report'

const UNITS: Readonly<Partial<Record<RangeRun['kind'], string>>> = { bone: '°', clip: ' s' }

/** Runs of which the poses lie on a way: charts of anything else would join what has nothing to do with each other. */
const isWay = ({ kind, channel, samples }: RangeRun): boolean => (channel !== null || kind === 'clip') && samples.length > 2

const TICK = { fontSize: 11, fill: 'var(--quiet)' } as const
const HEIGHT = 190

export default function FaultChart({ run }: { run: RangeRun }) {
  if (!isWay(run)) return null
  const points = run.samples.map(({ at, badness, area, speed }) => ({
    ...{ at, faults: Math.round(100 * badness) / 100, area: Math.round(100 * area) },
    speed: speed === null ? null : Math.round(100 * speed) / 100,
  }))
  const hasSpeed = points.some(({ speed }) => speed !== null)
  return (
    <figure className="mt-2" aria-label={`Faults${hasSpeed ? ', speed' : ''} and area along ${run.name}`}>
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <LineChart data={points} margin={{ top: 8, right: 8, bottom: 0, left: -18 }}>
          <CartesianGrid stroke="var(--hair)" vertical={false} />
          <XAxis dataKey="at" type="number" domain={['dataMin', 'dataMax']} tick={TICK} unit={UNITS[run.kind] ?? ''} stroke="var(--hair)" />
          <YAxis yAxisId="faults" tick={TICK} stroke="var(--hair)" domain={[0, (most: number) => Math.max(2, Math.ceil(most))]} />
          <YAxis yAxisId="area" orientation="right" tick={TICK} stroke="var(--hair)" unit="%" domain={[0, 100]} width={44} />
          <ReferenceLine yAxisId="faults" y={1} stroke="var(--brass)" strokeDasharray="4 3" />
          <Tooltip contentStyle={{ background: 'var(--panel)', border: '1px solid var(--hair)', borderRadius: 8, fontSize: 12 }} />
          <Line
            yAxisId="faults"
            dataKey="faults"
            name="Faults"
            stroke="var(--cord)"
            strokeWidth={2}
            dot={{ r: 2 }}
            isAnimationActive={false}
          />
          <Line
            yAxisId="area"
            dataKey="area"
            name="Area, %"
            stroke="var(--verdigris)"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
          />
          {hasSpeed && (
            <Line
              yAxisId="faults"
              dataKey="speed"
              name="Heights a second"
              stroke="var(--brass)"
              strokeWidth={1.5}
              dot={false}
              isAnimationActive={false}
            />
          )}
        </LineChart>
      </ResponsiveContainer>
      <figcaption className="cap flex gap-4">
        <Legend colour="bg-cord">Worst fault; from the dashed line on it is worth a look</Legend>
        <Legend colour="bg-verdigris">Area that is left</Legend>
        {hasSpeed && <Legend colour="bg-brass">Heights of the figure a second</Legend>}
      </figcaption>
    </figure>
  )
}

function Legend({ colour, children }: { colour: string; children: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <i className={`h-0.5 w-4 ${colour}`} />
      {children}
    </span>
  )
}

import type { ReactNode } from 'react'
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts'
import type { WatchedView } from '../api/client'
import { exact, size } from '../words'
import { thinned } from './thinned'

const gigabyte = 2 ** 30
const megabyte = 1_000_000

type Row = { at: number } & Record<Figure, number | null>
const figures = ['memory', 'paged', 'cpu', 'disk', 'net'] as const
type Figure = (typeof figures)[number]

// More points than this are closer together than a screen shows.
const widest = 240

/** The load before and after, one above the other on the same axes, each with its peak and what was installed. */
export default function LoadPlots({ watched }: { watched: WatchedView[] }) {
  const shown = (['before', 'after'] as const).flatMap((phase) => {
    const last = watched.filter((w) => w.load.phase === phase).at(-1)
    return last ? [last] : []
  })
  const most = Math.max(...shown.map((w) => Math.max(w.installedBytes ?? 0, w.peaks.wantedBytes ?? 0)))
  const rates = Math.max(...shown.map(({ peaks }) => Math.max(peaks.diskBytes ?? 0, peaks.netBytes ?? 0)))
  const longest = Math.max(...shown.map((w) => w.load.series.seconds.at(-1) ?? 0))
  return (
    <div className="stack load-plots">
      {shown.map((w) => (
        <Plot
          key={w.load.sequence}
          watched={w}
          most={most / gigabyte}
          rates={rates / megabyte}
          longest={longest}
        />
      ))}
      {watched.length > shown.length && (
        <p className="muted small">{watched.length - shown.length} earlier ones are in the journal.</p>
      )}
    </div>
  )
}

type PlotProps = {
  watched: WatchedView
  /** The top of the axis of memory, in GB. */
  most: number
  /** The same of drives and network, in MB/s. */
  rates: number
  /** In seconds. */
  longest: number
}

function Plot({ watched, most, rates, longest }: PlotProps) {
  const { load, peaks, installedBytes } = watched
  const rows = rowsOf(watched)
  const time = <XAxis dataKey="at" type="number" domain={[0, longest]} hide />
  return (
    <figure className="load-plot" aria-label={`Load ${load.phase}`}>
      <figcaption>
        <b>Load {load.phase}</b>{' '}
        <span className="muted">
          {peaks.minutes} min · {exact(load.at)}
          {load.note && ` · ${load.note}`}
        </span>
        <br />
        {summary(watched)}
      </figcaption>
      <Panel height={170} rows={rows} keys={[['in use', 'mat'], ...(peaks.pagedOutBytes ? pagedKey : [])]}>
        {time}
        <YAxis domain={[0, Math.ceil(most)]} tick={tick} width={64} unit=" GB" />
        {installedBytes !== null && (
          <ReferenceLine
            y={installedBytes / gigabyte}
            stroke="var(--ink)"
            label={{ value: `${size(installedBytes)} installed`, dy: -8, ...beside }}
          />
        )}
        {peaks.inUseBytes !== null && (
          <ReferenceLine
            y={peaks.inUseBytes / gigabyte}
            stroke="var(--lamp)"
            strokeDasharray="4 4"
            label={{ value: `peak ${size(peaks.inUseBytes)}`, dy: 8, ...beside }}
          />
        )}
        <Line dataKey="memory" stroke="var(--mat)" {...thin} strokeWidth={2} />
        {peaks.pagedOutBytes ? <Line dataKey="paged" stroke="var(--short)" {...thin} /> : null}
      </Panel>
      <Panel height={80} rows={rows} keys={[['processor', 'ink']]}>
        {time}
        <YAxis domain={[0, 100]} ticks={[0, 50, 100]} tick={tick} width={64} unit=" %" />
        <Line dataKey="cpu" stroke="var(--ink)" {...thin} />
      </Panel>
      <Panel
        height={104}
        rows={rows}
        keys={[
          ['drives', 'mat'],
          ['network', 'lamp'],
        ]}
      >
        <XAxis
          dataKey="at"
          type="number"
          domain={[0, longest]}
          ticks={minutesOf(longest)}
          tick={tick}
          tickFormatter={(s: number) => `${s / 60} min`}
        />
        <YAxis
          domain={[0, Math.max(1, Math.ceil(rates))]}
          tickCount={3}
          tick={tick}
          width={64}
          unit=" MB/s"
        />
        <Line dataKey="disk" stroke="var(--mat)" {...thin} />
        <Line dataKey="net" stroke="var(--lamp)" {...thin} />
      </Panel>
    </figure>
  )
}

type Key = [name: string, colour: string]
const pagedKey: Key[] = [['paged out', 'short']]

function Panel(props: { height: number; rows: Row[]; keys: Key[]; children: ReactNode }) {
  return (
    <div className="load-panel">
      <div style={{ height: props.height }}>
        <ResponsiveContainer>
          <LineChart data={props.rows} margin={{ top: 18, right: 104, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--line)" vertical={false} />
            {props.children}
          </LineChart>
        </ResponsiveContainer>
      </div>
      <p className="load-keys small">
        {props.keys.map(([name, colour]) => (
          <span key={name} style={{ borderColor: `var(--${colour})` }}>
            {name}
          </span>
        ))}
      </p>
    </div>
  )
}

// No more than seven marks, at whole minutes.
function minutesOf(longest: number): number[] {
  const step = Math.max(1, Math.ceil(longest / 60 / 6))
  return Array.from({ length: Math.floor(longest / 60 / step) + 1 }, (_, i) => i * step * 60)
}

function rowsOf({ load: { series } }: WatchedView): Row[] {
  const rows = series.seconds.map((at, i) => ({
    at,
    memory: scaled(series.inUseBytes[i], gigabyte),
    paged: scaled(series.pagedOutBytes[i], gigabyte),
    cpu: series.cpuPercent[i] ?? null,
    disk: scaled(series.diskBytes[i], megabyte),
    net: scaled(series.netBytes[i], megabyte),
  }))
  return thinned(rows, figures, widest)
}

const scaled = (bytes: number | null | undefined, unit: number) => (bytes == null ? null : bytes / unit)

function summary({ peaks }: WatchedView) {
  return [
    peaks.inUseBytes !== null && `at most ${size(peaks.inUseBytes)} in use`,
    peaks.pagedOutBytes ? `${size(peaks.pagedOutBytes)} paged out` : null,
    peaks.cpuPercent !== null && `processor ${peaks.cpuPercent} %`,
    peaks.diskBytes !== null && `drives ${rate(peaks.diskBytes)}`,
    peaks.netBytes !== null && `network ${rate(peaks.netBytes)}`,
  ]
    .filter(Boolean)
    .join(' · ')
}

const rate = (bytes: number) => `${Math.round(bytes / (megabyte / 10)) / 10} MB/s`

const tick = { fill: 'var(--muted)', fontSize: 13 }
const beside = { position: 'right', fill: 'var(--ink)', fontSize: 13 } as const
const thin = {
  type: 'linear',
  dot: false,
  activeDot: false,
  isAnimationActive: false,
  connectNulls: false,
} as const

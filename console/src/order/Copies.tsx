import { TextInput } from '@mantine/core'
import { useState } from 'react'
import { typedSize, type OrderChange, type OrderView } from '../api/client'
import { useTold } from '../api/queries'
import { FilePick } from '../parts/FilePick'
import { Trouble } from '../parts/Trouble'
import { driveSize, exact } from '../words'
import { may } from './acts'

type Field = [key: string, label: string, placeholder: string]

/** Drives whose data is copied before they leave: begun, how far, compared. */
export function Copies({ order }: { order: OrderView }) {
  return order.copyBays.map((bay) => <Copy key={bay} order={order} bay={bay} />)
}

function Copy({ order, bay }: { order: OrderView; bay: string }) {
  const copy = order.copies.find((c) => c.bay === bay)
  const verified = copy?.verified
  const good = verified?.isGood ?? false
  return (
    <div className="stack" style={{ gap: 8 }}>
      <h3>Copy of {bay}</h3>
      {copy ? (
        <>
          <div
            className="copy-bar"
            role="progressbar"
            aria-label={`Copy of ${bay}`}
            aria-valuemin={0}
            aria-valuemax={copy.size}
            aria-valuenow={copy.done}
          >
            <i style={{ width: `${(100 * copy.done) / copy.size}%` }} />
          </div>
          <p className="small">
            {driveSize(copy.done)} of {driveSize(copy.size)}, {copy.method}, {copy.source} to {copy.target}
            {!verified && copy.estimatedEnd && `; done about ${exact(copy.estimatedEnd)}`}
          </p>
          {verified && (
            <p className={`verdict ${good ? 'as-planned' : 'short'}`}>
              {good ? '✓' : '✕'} {verified.filesTarget} of {verified.filesSource} files, {verified.matched} of{' '}
              {verified.sampled} hashes alike
            </p>
          )}
          {may(order, 'advance-copy') && !good && (
            <Tell
              order={order}
              label="So much is copied"
              fields={[['done', 'Copied so far', '300 GB']]}
              change={(f) => ({ path: `copies/${bay}/done`, body: { done: typedSize(f.done ?? '') } })}
            />
          )}
          {may(order, 'verify-copy') && !good && (
            <>
              <Tell
                order={order}
                label="They are compared"
                fields={[
                  ['source', 'Files on the old one', '41204'],
                  ['target', 'Files on the new one', '41204'],
                  ['sampled', 'Hashes sampled', '200'],
                  ['matched', 'Hashes alike', '200'],
                ]}
                change={(f) => ({
                  path: `copies/${bay}/verify`,
                  body: {
                    filesSource: Number(f.source),
                    filesTarget: Number(f.target),
                    sampled: Number(f.sampled),
                    matched: Number(f.matched),
                  },
                })}
              />
              <FromLists order={order} bay={bay} />
            </>
          )}
        </>
      ) : (
        may(order, 'begin-copy') && (
          <Tell
            order={order}
            label="The copy begins"
            fields={[
              ['source', 'From', 'serial of the old one'],
              ['target', 'To', 'serial of the new one'],
              ['method', 'How', 'image, by file …'],
              ['size', 'How much', '212 GB'],
            ]}
            change={(f) => ({
              path: `copies/${bay}`,
              body: {
                source: f.source ?? '',
                target: f.target ?? '',
                method: f.method ?? '',
                size: typedSize(f.size ?? ''),
              },
            })}
          />
        )
      )}
    </div>
  )
}

/** The same from two files, as sha256sum writes them: counts and hashes at once. */
function FromLists({ order, bay }: { order: OrderView; bay: string }) {
  const [lists, setLists] = useState<{ source?: string; target?: string }>({})
  const change = useTold(order.number)
  const count = (list: string) => list.split('\n').filter((line) => line.trim()).length
  const { source, target } = lists
  return (
    <div className="row">
      {(['source', 'target'] as const).map((side) => (
        <FilePick
          key={side}
          label={`${lists[side] ? '✓ ' : ''}Hashes of the ${side === 'source' ? 'old' : 'new'} one`}
          onPick={(file) => void file.text().then((text) => setLists((was) => ({ ...was, [side]: text })))}
        />
      ))}
      <button
        className="button"
        disabled={!source || !target || change.isPending}
        onClick={() =>
          change.send({
            path: `copies/${bay}/verify`,
            body: {
              filesSource: count(source!),
              filesTarget: count(target!),
              sourceHashes: source,
              targetHashes: target,
            },
          })
        }
      >
        Compare the lists
      </button>
      <Trouble error={change.error} />
    </div>
  )
}

function Tell(props: {
  order: OrderView
  label: string
  fields: Field[]
  change: (fields: Record<string, string>) => OrderChange
}) {
  const [values, setValues] = useState<Record<string, string>>({})
  const change = useTold(props.order.number)
  return (
    <form
      className="stack"
      style={{ gap: 8 }}
      onSubmit={(e) => {
        e.preventDefault()
        change.send(props.change(values), () => setValues({}))
      }}
    >
      <div className="row tell">
        {props.fields.map(([key, label, placeholder]) => (
          <TextInput
            key={key}
            aria-label={label}
            placeholder={`${label}: ${placeholder}`}
            value={values[key] ?? ''}
            onChange={(e) => setValues({ ...values, [key]: e.target.value })}
          />
        ))}
        <button
          className="button"
          disabled={change.isPending || props.fields.some(([key]) => !values[key]?.trim())}
        >
          {props.label}
        </button>
      </div>
      <Trouble error={change.error} />
    </form>
  )
}

import { TextInput } from '@mantine/core'
import { useState } from 'react'
import { api, type OrderView } from '../api/client'
import { useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'

/** A slot or bay that the machine did not tell of, since it is empty: somebody sees that it is there. */
export function AddPosition({ order }: { order: OrderView }) {
  const [name, setName] = useState('')
  const change = useChange(async (isBay: boolean, header) =>
    api.POST('/api/v1/orders/{number}/positions', {
      params: { path: { number: order.number }, header },
      body: { seen: { position: name.trim(), isBay } },
    }),
  )
  const add = (isBay: boolean) => change.send(isBay, () => setName(''))
  return (
    <details className="add-position">
      <summary>A slot or bay more than it tells</summary>
      <div className="row">
        <TextInput
          aria-label="Its name, as on the board"
          placeholder="its name, as on the board: S2, D1"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button className="button" disabled={!name.trim() || change.isPending} onClick={() => add(false)}>
          It is a slot
        </button>
        <button className="button" disabled={!name.trim() || change.isPending} onClick={() => add(true)}>
          It is a bay
        </button>
      </div>
      <Trouble error={change.error} />
    </details>
  )
}

import { useState } from 'react'
import type { OrderView } from '../api/client'
import { sayOf } from '../away/queue'
import { FilePick } from '../parts/FilePick'
import { Field } from './Field'

type Props = {
  order: OrderView
  step: string | null
  /** Without a caption. */
  plain?: boolean
  onSaid: () => void
}

/** Takes a photo and puts it on the order, at a step: kept on the screen first, like all that is said here. */
export function PhotoForm({ order, step, plain = false, onSaid }: Props) {
  const [caption, setCaption] = useState('')
  const keep = (file: File) => {
    const query = new URLSearchParams({
      ...(step && { step }),
      ...(caption.trim() && { caption: caption.trim() }),
    })
    sayOf(order.number)({
      path: `photos?${query}`,
      body: file,
      step: step ?? 'order',
      title: ['Photo', caption.trim()].filter(Boolean).join(': '),
      confirms: false,
    })
    onSaid()
  }
  return (
    <div className="row">
      {!plain && <Field label="Caption" value={caption} onChange={setCaption} />}
      <FilePick
        label="Take or choose a photo"
        accept="image/jpeg,image/png,image/webp"
        camera
        onPick={keep}
      />
    </div>
  )
}

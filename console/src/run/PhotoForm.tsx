import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { send, type OrderView } from '../api/client'
import { useMe } from '../api/me'
import { FilePick } from '../parts/FilePick'
import { Trouble } from '../parts/Trouble'
import { Field } from './Field'

type Props = {
  order: OrderView
  step: string | null
  /** Without a caption. */
  plain?: boolean
  onSent: () => void
}

/** Takes a photo and puts it on the order, at a step. */
export function PhotoForm({ order, step, plain = false, onSent }: Props) {
  const client = useQueryClient()
  const me = useMe()
  const [caption, setCaption] = useState('')
  const [error, setError] = useState<Error | null>(null)
  const [sending, setSending] = useState(false)
  const sendIt = async (file: File) => {
    setSending(true)
    setError(null)
    const query = new URLSearchParams({
      ...(step && { step }),
      ...(caption.trim() && { caption: caption.trim() }),
    })
    try {
      await send(
        'POST',
        `orders/${order.number}/photos?${query}`,
        file,
        crypto.randomUUID(),
        file.type || 'image/jpeg',
      )
      await client.invalidateQueries({ queryKey: ['order', order.number] })
      onSent()
    } catch (e) {
      setError(e as Error)
    } finally {
      setSending(false)
    }
  }
  return (
    <div className="stack">
      <div className="row">
        {!plain && <Field label="Caption" value={caption} onChange={setCaption} />}
        <FilePick
          label={sending ? 'Sending…' : 'Take or choose a photo'}
          accept="image/jpeg,image/png,image/webp"
          camera
          disabled={sending || !me}
          onPick={(file) => void sendIt(file)}
        />
      </div>
      <Trouble error={error} />
    </div>
  )
}

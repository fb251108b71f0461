import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useEffect, useRef, useState } from 'react'
import { api, type NoticeLine } from '../api/client'
import { noticesQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'
import { useTitle } from '../parts/title'
import { spoken } from '../words'
import './people.css'
import { Name } from './Name'

const unreadOf = (lines: NoticeLine[]) => lines.filter((n) => n.readAt === null)

/** How many things concern whoever sits here; what is new is also told by the browser, where that was wished. */
export function NoticeCount() {
  const unread = unreadOf(items(useInfiniteQuery(noticesQuery)))
  const newest = unread[0]
  const told = useRef<number | null>(null)
  useEffect(() => {
    // What lay there when the page was opened is on the page.
    const first = told.current === null
    if (newest && newest.position > (told.current ?? 0)) {
      if (!first && document.hidden && canTell() && Notification.permission === 'granted')
        new Notification(`Order ${newest.order}: ${spoken(newest.kind)}`, { body: newest.text })
    }
    told.current = Math.max(told.current ?? 0, newest?.position ?? 0)
  }, [newest])
  return (
    <Link to="/notices" className="small notice-count">
      Notices {unread.length > 0 && <b className="tag">{unread.length}</b>}
    </Link>
  )
}

const canTell = () => 'Notification' in window

/** What concerns whoever sits here, newest first. */
export function NoticesPage() {
  useTitle('Notices')
  const client = useQueryClient()
  const notices = useInfiniteQuery(noticesQuery)
  const all = items(notices)
  const unread = unreadOf(all)
  const read = useMutation({
    mutationFn: async (upTo: number) => {
      await api.POST('/api/v1/notices/read', { body: { upTo } })
    },
    onSuccess: () => client.invalidateQueries({ queryKey: noticesQuery.queryKey }),
  })
  return (
    <div className="page stack">
      <h1>Notices</h1>
      <section className="sheet stack">
        <div className="row">
          <button
            className="button"
            disabled={unread.length === 0 || read.isPending}
            onClick={() => read.mutate(unread[0]!.position)}
          >
            All are read
          </button>
          <TellMe />
        </div>
        {notices.data && all.length === 0 && (
          <p className="muted">
            Nothing yet. Here stands what is handed over to you, notes that name you with @, a customer’s
            answer, and orders that are taken up again.
          </p>
        )}
        <ol className="notices">
          {all.map((n) => (
            <li key={n.position} className={n.readAt === null ? 'unread' : ''}>
              <Link to="/orders/$number" params={{ number: String(n.order) }} className="mono">
                {n.order}
              </Link>
              <span>
                <b>{spoken(n.kind)}</b> {n.text}
              </span>
              <span className="muted small">
                <Name id={n.by} />, <When at={n.at} />
              </span>
            </li>
          ))}
        </ol>
        <More list={notices} />
        {(notices.error ?? read.error) && <Trouble error={notices.error ?? read.error} />}
      </section>
    </div>
  )
}

function TellMe() {
  const [permission, setPermission] = useState(canTell() ? Notification.permission : 'denied')
  if (permission !== 'default') return null
  return (
    <button
      className="button"
      onClick={() => void Notification.requestPermission().then((p) => setPermission(p))}
    >
      Tell me while I look elsewhere
    </button>
  )
}

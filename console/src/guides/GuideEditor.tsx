import { useDebouncedValue } from '@mantine/hooks'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import { useEffect, useRef, useState } from 'react'
import { api, newKey, Problem, send, type Guide, type GuideProblem } from '../api/client'
import { blankGuide, draftQuery, fileQuery } from '../api/queries'
import { useMe } from '../api/me'
import { Trouble, Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { PlaceBoard } from './PlaceBoard'
import './guides.css'

type Checked = { problems: GuideProblem[]; guide: Guide | null }

/** A guide being worked on: its file, what is wrong beside the line, and the drawing placed by hand. */
export function GuideEditor() {
  const { code } = useParams({ from: '/shell/guides/$code/edit' })
  useTitle(`Edit ${code}`)
  const draft = useQuery(draftQuery(code))
  const [turn, setTurn] = useState(0)
  const [told, setTold] = useState('')
  const file = useQuery({ ...fileQuery(code), enabled: draft.isFetched && !draft.data })
  if (!draft.isFetched || (!draft.data && !file.data)) return <Waiting error={draft.error ?? file.error} />
  return (
    <Editor
      key={turn}
      code={code}
      begin={draft.data?.yaml ?? file.data ?? ''}
      version={draft.data?.version ?? 0}
      told={told}
      onTurn={(what) => {
        if (what) setTold(what)
        setTurn((t) => t + 1)
      }}
    />
  )
}

type EditorProps = {
  code: string
  begin: string
  version: number
  told: string
  /** Something was done with the draft: the editor begins anew from what stands now. */
  onTurn: (told?: string) => void
}

// What is typed stays, whoever else changes the draft meanwhile: it is begun from one version and saved against that.
function Editor(props: EditorProps) {
  const { code, told, onTurn } = props
  const [{ begin, version }] = useState(props)
  const client = useQueryClient()
  const [yaml, setYaml] = useState(begin)
  const [error, setError] = useState<Error | null>(null)
  const [settled] = useDebouncedValue(yaml, 250)
  const lead = useMe()?.isLead ?? false
  const check = useQuery({
    queryKey: ['check', settled],
    queryFn: async () =>
      (await (await send('POST', 'guides/check', settled, undefined, 'application/yaml')).json()) as Checked,
    staleTime: Infinity,
    placeholderData: (before) => before,
    retry: false,
  })
  const changed = yaml !== begin
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => event.preventDefault()
    if (changed) window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [changed])

  // As long as nothing is typed the newest state is the one to work on.
  const overtaken = props.version !== version
  useEffect(() => {
    if (overtaken && !changed) onTurn()
  }, [overtaken, changed, onTurn])

  const act = async (action: () => Promise<string>) => {
    setError(null)
    try {
      const what = await action()
      await Promise.all(
        ['draft', 'guide', 'guides', 'compare', 'revisions'].map((key) =>
          client.invalidateQueries({ queryKey: [key], refetchType: 'all' }),
        ),
      )
      onTurn(what)
    } catch (e) {
      setError(e as Error)
    }
  }
  const save = () =>
    act(async () => {
      await send('PUT', `guides/${code}/draft`, yaml, undefined, 'application/yaml', {
        'If-Match': `"${version}"`,
      })
      return 'Saved as the draft.'
    })
  const problems = check.data?.problems ?? []
  return (
    <div className="page stack editor">
      <div className="row guides-head">
        <h1>
          <Link to="/guides/$code" params={{ code }}>
            {code}
          </Link>
          , {version > 0 ? 'draft' : begin === blankGuide(code) ? 'new' : 'as published'}
        </h1>
        <span className={problems.length > 0 ? 'verdict short' : 'verdict as-planned'} role="status">
          {problems.length > 0
            ? `✕ ${problems.length} ${problems.length === 1 ? 'problem' : 'problems'}`
            : '✓ nothing wrong'}
        </span>
        <span className="row guide-ways">
          <button className="button" disabled={!changed} onClick={() => void save()}>
            Save the draft
          </button>
          {version > 0 && (
            <Link to="/guides/$code/compare" params={{ code }} search={{ to: 'draft' }} className="button">
              Compare
            </Link>
          )}
          {version > 0 && lead && (
            <>
              <button
                className="button"
                onClick={() =>
                  void act(async () => {
                    await api.DELETE('/api/v1/guides/{code}/draft', {
                      params: { path: { code }, header: newKey() },
                    })
                    return 'The draft is gone.'
                  })
                }
              >
                Throw it away
              </button>
              <button
                className="button now"
                disabled={changed || problems.length > 0}
                onClick={() =>
                  void act(async () => {
                    const done = await api.POST('/api/v1/guides/{code}/draft/publish', {
                      params: { path: { code }, header: newKey() },
                    })
                    return `Published as revision ${done.data!.revision}.`
                  })
                }
              >
                Publish
              </button>
            </>
          )}
        </span>
      </div>
      <Trouble error={error ?? (check.error instanceof Problem ? check.error : null)} />
      {told && <p role="status">{told}</p>}
      {overtaken && changed && (
        <p className="trouble">
          Somebody changed the draft meanwhile. What you typed is still here; copy it, then load this page
          again.
        </p>
      )}
      <div className="editor-body">
        <Lines yaml={yaml} problems={problems} onChange={setYaml} />
        <PlaceBoard guide={check.data?.guide ?? null} yaml={yaml} onChange={setYaml} />
      </div>
    </div>
  )
}

/** The file with its line numbers; a line with a problem says so beside itself. */
function Lines(props: { yaml: string; problems: GuideProblem[]; onChange: (yaml: string) => void }) {
  const { yaml, problems, onChange } = props
  const gutter = useRef<HTMLOListElement>(null)
  const area = useRef<HTMLTextAreaElement>(null)
  const lines = yaml.split('\n')
  const at = new Map<number, string[]>()
  for (const p of problems) at.set(p.line, [...(at.get(p.line) ?? []), p.message])
  const jump = (line: number) => {
    const text = area.current!
    const begin = lines.slice(0, line - 1).join('\n').length + (line > 1 ? 1 : 0)
    text.focus()
    text.setSelectionRange(begin, begin + (lines[line - 1]?.length ?? 0))
    text.scrollTop = (line - 4) * 22
  }
  return (
    <div className="stack">
      <div className="file">
        <ol ref={gutter} aria-hidden="true">
          {lines.map((_, i) => (
            <li key={i} className={at.has(i + 1) ? 'wrong' : undefined}>
              {i + 1}
            </li>
          ))}
        </ol>
        <textarea
          ref={area}
          aria-label="The guide’s file"
          spellCheck={false}
          wrap="off"
          value={yaml}
          onChange={(e) => onChange(e.target.value)}
          onScroll={(e) => {
            if (gutter.current) gutter.current.scrollTop = e.currentTarget.scrollTop
          }}
        />
      </div>
      {problems.length > 0 && (
        <ul className="problems" aria-label="Problems">
          {problems.map((p, i) => (
            <li key={i}>
              <button className="icon" onClick={() => jump(p.line)}>
                <b className="mono">{p.line}</b> {p.message}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

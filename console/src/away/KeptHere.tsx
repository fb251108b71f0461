import { Link } from '@tanstack/react-router'
import { useSaid } from './queue'

/** How much was said here and not taken yet, with the way to it; nothing when all is told. */
export function KeptHere({ order }: { order?: number }) {
  const { said, waitsFor, keeps, damaged, lost } = useSaid(order)
  const refused = said.filter((s) => s.refused).length
  const waiting = said.length - refused
  // What is sent as it is said is no news in the run.
  const tells = order === undefined ? 1 : 2
  const text = [
    refused === 0 && waiting > 0 && waitsFor && `${waiting} kept here until ${waitsFor} signs in`,
    refused === 0 &&
      waiting >= tells &&
      !waitsFor &&
      `${waiting} ${lost ? 'kept here' : waiting === 1 ? 'on its way' : 'on their way'}`,
    refused > 0 && `${refused} not taken`,
    !keeps && 'This screen keeps nothing',
    damaged && keeps && order === undefined && 'A damaged store was set aside',
  ].filter(Boolean)
  if (text.length === 0) return null
  const isTrouble = refused > 0 || waitsFor || !keeps || damaged
  return (
    <span role="status">
      <Link to="/kept" className={isTrouble ? 'offline' : 'muted small'}>
        {text.join('; ')}
      </Link>
    </span>
  )
}

import { ago, exact } from '../words'

/** A time: relative under a day, exact on hover. */
export const When = ({ at }: { at: string }) => (
  <time dateTime={at} title={exact(at)}>
    {ago(at)}
  </time>
)

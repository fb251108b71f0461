import { When } from '../parts/When'

/** A moment of the service's clock. */
export const WhenSaid = ({ at }: { at: number }) => <When at={new Date(at).toISOString()} />

import type { Verdict } from '../api/client'
import { verdictWord } from '../words'

export const VerdictMark = ({ verdict }: { verdict: Verdict | null }) =>
  verdict && <span className={`verdict ${verdict}`}>{verdictWord(verdict)}</span>

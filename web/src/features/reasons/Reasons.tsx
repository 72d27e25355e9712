import { useSearchParams } from 'react-router'
import { Matters } from './Matters'
import { Record } from './Record'

/** One record where the address names one, else what matters over all. */
export function Reasons() {
  const [params] = useSearchParams()
  return params.has('record') || params.has('batch') ? <Record /> : <Matters />
}

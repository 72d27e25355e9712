import { useAddress } from './address'

/** The cut-off that the address asks for, or the usual one where it asks for none or for what is none. */
export function useCutoff(usual: number | null | undefined): number {
  const [params] = useAddress()
  const asked = Number.parseFloat(params.get('cutoff') ?? '')
  return asked > 0 && asked <= 1 ? asked : (usual ?? 0.5)
}

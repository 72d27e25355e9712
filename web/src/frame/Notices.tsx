import { useQuery } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

const EVERY = 60_000

/** What is amiss with the installation, said on every page until it is mended. */
export function Notices() {
  const notices = useQuery({
    queryKey: ['notices'],
    refetchInterval: EVERY,
    retry: false,
    queryFn: () => take<View<'NoticesView'>>(api.GET('/api/notices')),
  })
  const says = notices.data?.says ?? []
  if (says.length === 0) return null
  return (
    <p className="amiss" role="alert">
      {says.join(' ')}
    </p>
  )
}

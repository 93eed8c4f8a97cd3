import { useQuery } from '@tanstack/react-query'
import { client, unwrapped } from './client'

/** Who is signed in here, and as what. */
export function useSession() {
  return useQuery({ queryKey: ['session'], queryFn: () => unwrapped(client.GET('/api/v1/session')) })
}

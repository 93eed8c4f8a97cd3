import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type SchoolCalendar } from '@/api'

const KEY = ['calendar']

/** When there is school, and what changes it. */
export function useCalendar() {
  const queries = useQueryClient()
  return {
    calendar: useQuery({ queryKey: KEY, queryFn: () => unwrapped(client.GET('/api/v1/calendar')) }),
    keep: useMutation({
      mutationFn: (body: SchoolCalendar) => unwrapped(client.PUT('/api/v1/calendar', { body })),
      onSuccess: async (kept: SchoolCalendar) => {
        queries.setQueryData(KEY, kept)
        // What waits, and what lies on a day off, is another now.
        await queries.invalidateQueries({ queryKey: ['prepare'] })
        await queries.invalidateQueries({ queryKey: ['preparation'] })
      },
    }),
    read: useMutation({
      mutationFn: (text: string) => unwrapped(client.POST('/api/v1/calendar/file', { body: { text } })),
    }),
  }
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type RoomItem, type RoomView } from '@/api'

const KEY = ['room']

/** What the room has of its own. */
export function useRoom() {
  return useQuery({ queryKey: KEY, queryFn: () => unwrapped(client.GET('/api/v1/room')) })
}

/** Puts things into the room and takes them out. */
export function useFurnish() {
  const queries = useQueryClient()
  const onSuccess = (room: RoomView) => {
    queries.setQueryData(KEY, room)
  }
  const put = useMutation({
    mutationFn: (item: RoomItem) => unwrapped(client.PUT('/api/v1/room', { body: item })),
    onSuccess,
  })
  const takeOut = useMutation({
    mutationFn: (of: { kind: RoomItem['sort']; name: string }) =>
      unwrapped(client.DELETE('/api/v1/room/{kind}/{name}', { params: { path: of } })),
    onSuccess,
  })
  return { put, takeOut }
}

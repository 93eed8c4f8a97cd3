import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { client, unwrapped, type Answer, type WhichProblem } from '@/api'

/** What there is to practise on. */
export function usePractice() {
  return useQuery({
    queryKey: ['practice'],
    queryFn: () => unwrapped(client.GET('/api/v1/practice')),
  })
}

/** What is given and asked. */
export function useProblem(which: WhichProblem) {
  return useQuery({
    queryKey: ['practice', 'problem', which],
    staleTime: Infinity,
    queryFn: () => unwrapped(client.POST('/api/v1/practice/problem', { body: which })),
  })
}

/** Readings taken by hand and answers, by their symbols. */
export interface Worked {
  readings: Record<string, string>
  answers: Record<string, Answer>
}

/** How what was done so far stands. */
export function useJudged(problem: WhichProblem, { readings, answers }: Worked) {
  return useQuery({
    queryKey: ['practice', 'judged', problem, readings, answers],
    enabled: Object.keys(readings).length + Object.keys(answers).length > 0,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      unwrapped(client.POST('/api/v1/practice/judged', { body: { problem, readings, answers } })),
  })
}

/** All of it worked out, once it is asked for. */
export function useWorked(problem: WhichProblem, { readings }: Worked, wanted: boolean) {
  return useQuery({
    queryKey: ['practice', 'worked', problem, readings],
    enabled: wanted,
    queryFn: () => unwrapped(client.POST('/api/v1/practice/worked', { body: { problem, readings } })),
  })
}

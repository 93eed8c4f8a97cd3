import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { client, unwrapped, type MeniscusTask } from '@/api'
import { Failure } from '@/ui'
import { PracticeHead } from '../PracticeHead'
import { ReadPad } from '../ReadPad'
import { useSeed } from '../useSeed'
import { SCALES } from './names'
import { Scattered } from './Scattered'
import { ScaleView } from './ScaleView'

const HOW_MANY = 20

/** Twenty scales, one after the other; at the end how far off they were read, and how much that scatters. */
export function ScalesPage() {
  const { seed, another } = useSeed()
  return (
    <>
      <PracticeHead title="Read a scale" seed={seed} onAnother={another} />
      <Scales key={seed} seed={seed} onAnother={another} />
    </>
  )
}

function Scales({ seed, onAnother }: { seed: number; onAnother: () => void }) {
  const [read, setRead] = useState<readonly string[]>([])
  const scales = useQuery({
    queryKey: ['practice', 'scales', seed, read],
    staleTime: Infinity,
    placeholderData: (before) => before,
    queryFn: () =>
      unwrapped(
        client.POST('/api/v1/practice/scales', { body: { seed, how_many: HOW_MANY, read: [...read] } }),
      ),
  })
  if (scales.isPending) return <p className="py-12 text-slate">Setting out the glass …</p>
  if (scales.isError) return <Failure error={scales.error} />
  const { tasks, scatter } = scales.data
  const task = tasks[read.length]
  const last = tasks[read.length - 1]
  return (
    <div className="grid gap-x-10 gap-y-6 desk:grid-cols-[minmax(0,24rem)_minmax(0,1fr)]">
      <div>
        {task ? (
          <ReadOne
            key={read.length}
            task={task}
            nr={read.length + 1}
            onRead={(text) => {
              setRead([...read, text])
            }}
          />
        ) : (
          <p className="py-4">
            <button type="button" className="action" onClick={onAnother}>
              Another twenty
            </button>
          </p>
        )}
      </div>
      <Scattered tasks={tasks} read={read} scatter={scatter} last={last} />
    </div>
  )
}

function ReadOne({ task, nr, onRead }: { task: MeniscusTask; nr: number; onRead: (text: string) => void }) {
  const [eye, setEye] = useState(task.eye)
  return (
    <ReadPad
      label={`${nr} of ${HOW_MANY} · ${SCALES[task.kind]}`}
      unit={`${task.unit}, ${task.decimals === 1 ? '1 decimal' : `${task.decimals} decimals`}`}
      above={
        <div className="mb-3 flex gap-x-5">
          <ScaleView
            scale={task}
            stands={task.stands}
            thread={task.kind === 'thermometer'}
            eye={eye}
            parallax={task.parallax}
            label={SCALES[task.kind]}
          />
          <label className="flex flex-col items-center text-note text-slate">
            eye
            <input
              type="range"
              min={-1}
              max={1}
              step={0.05}
              value={eye}
              aria-valuetext={eyeWords(eye)}
              className="my-2 grow accent-copper [direction:rtl] [writing-mode:vertical-lr]"
              onChange={(event) => {
                setEye(Number(event.target.value))
              }}
            />
            <span className="w-16 text-center">{eyeWords(eye)}</span>
          </label>
        </div>
      }
      keep="Read"
      onRead={onRead}
    />
  )
}

/** At a twentieth of a hand nobody sees the rings bend. */
function eyeWords(eye: number): string {
  if (Math.abs(eye) < 0.08) return 'level'
  return eye > 0 ? 'above' : 'below'
}

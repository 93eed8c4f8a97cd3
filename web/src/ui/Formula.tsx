import type { RunOfText } from '@/api'

/** A formula or an equation, with real subscripts and charges; coefficients in copper. */
export function Formula({ runs }: { runs: readonly RunOfText[] }) {
  return (
    <span>
      {runs.map((run, i) => (
        <Piece key={i} run={run} />
      ))}
    </span>
  )
}

function Piece({ run }: { run: RunOfText }) {
  switch (run.script) {
    case 'sub':
      return <sub className="text-[0.72em]">{run.text}</sub>
    case 'super':
      return <sup className="text-[0.72em]">{run.text}</sup>
    case 'coefficient':
      return <span className="text-copper-text">{run.text}</span>
    case 'plain':
      return <>{run.text}</>
  }
}

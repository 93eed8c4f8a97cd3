import type { Line, Token } from '@/api'
import { setNumber } from './quantity'
import { isTied, type Tie } from './tie'
import { Name, Unit, Words } from './Quantity'

/**
 * A worked solution, aligned on its equals signs: symbols, then numbers, then the result. A number that is a reading
 * says so and can be followed to where it was read.
 */
export function WorkedLines({
  lines,
  onReading,
  tie,
  answered,
}: {
  lines: readonly Line[]
  onReading?: (symbol: string) => void
  tie?: Tie | undefined
  /** What a student wrote for the last line, over the recomputed result. */
  answered?: { text: string; unit: string } | undefined
}) {
  const last = lines.at(-1)
  return (
    <table className="w-full border-collapse text-body">
      <caption className="sr-only">worked solution</caption>
      <tbody>
        {lines.map((line) => (
          <tr key={line.name} className="border-t border-rule align-baseline">
            <th scope="row" className="py-2 pr-2 text-right font-normal whitespace-nowrap">
              <Name of={line.name} />
            </th>
            <td className="py-2 pr-2">=</td>
            <td className="py-2 pr-4">
              <div>{tokens(line.symbols)}</div>
              {tie && line.numbers.some((t) => isTied(t, tie)) && (
                <div className="font-mono text-ink">{tokens(line.numbers, undefined, tie, tie.instead)}</div>
              )}
              {line.numbers.length > 0 && (
                <div className="font-mono text-teal">{tokens(line.numbers, onReading, tie)}</div>
              )}
            </td>
            <td className="py-2 pl-2 text-right font-mono whitespace-nowrap text-teal">
              {answered && line === last && (
                <span className="block font-semibold text-ink">
                  <Words of={setNumber(answered.text)} />
                  <Unit of={answered.unit} />
                </span>
              )}
              {line.result == null ? (
                <span className="font-sans text-slate">not yet</span>
              ) : (
                <Words of={setNumber(line.result)} />
              )}
              {line.result != null && <Unit of={line.unit} />}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function tokens(pieces: readonly Token[], onReading?: (symbol: string) => void, tie?: Tie, instead?: string) {
  return pieces.map((piece, i) =>
    tie && isTied(piece, tie) ? (
      <span key={i} className="border-b-2 border-copper bg-copper-wash">
        {instead === undefined ? <Piece piece={piece} onReading={onReading} /> : setNumber(instead)}
      </span>
    ) : (
      <Piece key={i} piece={piece} onReading={onReading} />
    ),
  )
}

function Piece({ piece, onReading }: { piece: Token; onReading?: ((symbol: string) => void) | undefined }) {
  switch (piece.kind) {
    case 'symbol':
      return <Name of={piece.text} />
    case 'unit':
      return <Unit of={piece.text} />
    case 'sign':
      return <span>{signOf(piece.text)}</span>
    case 'word':
      return (
        <span>
          {piece.text === 'M' ? <i>M</i> : <Words of={piece.text} />}
          {/ (of|for)$/.test(piece.text) && ' '}
        </span>
      )
    case 'number': {
      const symbol = piece.reading
      if (symbol == null || !onReading) return <span>{setNumber(piece.text)}</span>
      return (
        <button
          type="button"
          className="border-b border-dotted border-teal hover:bg-copper-wash"
          onClick={() => {
            onReading(symbol)
          }}
        >
          {setNumber(piece.text)}
        </button>
      )
    }
  }
}

function signOf(sign: string): string {
  if (sign === ',') return ', '
  return sign === '(' || sign === ')' ? sign : ` ${sign} `
}

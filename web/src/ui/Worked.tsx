import type { Line, Token } from '@/api'
import { setNumber } from './quantity'
import { Name, Unit, Words } from './Quantity'

/**
 * A worked solution, aligned on its equals signs: symbols, then numbers, then the result. A number that is a reading
 * says so and can be followed to where it was read.
 */
export function WorkedLines({
  lines,
  onReading,
}: {
  lines: readonly Line[]
  onReading?: (symbol: string) => void
}) {
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
              {line.numbers.length > 0 && (
                <div className="font-mono text-teal">{tokens(line.numbers, onReading)}</div>
              )}
            </td>
            <td className="py-2 pl-2 text-right font-mono whitespace-nowrap text-teal">
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

function tokens(pieces: readonly Token[], onReading?: (symbol: string) => void) {
  return pieces.map((piece, i) => <Piece key={i} piece={piece} onReading={onReading} />)
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

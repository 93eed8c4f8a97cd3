/** Prints the page as it is shown. */
export function PrintButton({ words = 'Print it', className = '' }: { words?: string; className?: string }) {
  return (
    <button
      type="button"
      className={`action ${className}`}
      onClick={() => {
        window.print()
      }}
    >
      {words}
    </button>
  )
}

import { Link } from 'react-router'

/** Something to learn by until it is ready. */
export function Meanwhile() {
  return (
    <Link
      to="/practice"
      className="inline-block min-h-11 content-center text-body underline underline-offset-4"
    >
      While you wait: practise
    </Link>
  )
}

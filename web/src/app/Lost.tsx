import { Link, useRouteError } from 'react-router'

/** Shown for an unknown address, and when a view failed. */
export function Lost() {
  const error = useRouteError()
  return (
    <main className="p-6">
      <h1 className="text-title">{error ? 'This view failed' : 'There is nothing at this address'}</h1>
      <p className="my-2 max-w-prose text-ink2">
        {error
          ? `${error instanceof Error ? error.message : 'No reason was given.'} Your presets are safe; reload the page.`
          : 'The preset may have been taken off the shelf.'}
      </p>
      <Link className="act inline-block" to="/shelf">
        Go to the shelf
      </Link>
    </main>
  )
}

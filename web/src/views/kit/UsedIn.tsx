import { Link } from 'react-router'
import { usePresetsQuery } from '../../api/api'

interface Props {
  id: string
  name: string
  /** Address of the view that a preset is opened in. */
  to: (preset: string) => string
  /** What stands there without any. */
  none: string
}

/** Presets that use a thing of the Kit. */
export function UsedIn({ id, name, to, none }: Props) {
  const { data } = usePresetsQuery({ uses: id, sort: 'name', limit: 12 })
  const presets = data?.items ?? []
  return (
    <div className="mt-2 border-t border-ink pt-1">
      <h2 className="text-section font-bold">{name} is used in</h2>
      {presets.length === 0 && <p className="text-[12px] text-ink2">{none}</p>}
      <ul className="columns-2 gap-x-6 text-[12px] max-[700px]:columns-1">
        {presets.map((p) => (
          <li key={p.id} className="break-inside-avoid border-b border-rule py-0.5">
            <Link className="font-semibold hover:text-ember" to={to(p.id)}>
              {p.name}
            </Link>{' '}
            <span className="num text-ink2">{p.snapshotCount} snapshots</span>
          </li>
        ))}
      </ul>
      {data && data.total > presets.length && <p className="text-[12px] text-ink2">and in {data.total - presets.length} more</p>}
    </div>
  )
}

/** A channel's shape and number; up to eight are told apart by shape and number, never by colour alone. */
export function ChannelMark({ index, tone = 'var(--ink-2)', size = 17 }: { index: number; tone?: string; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="-10 -10 20 20" aria-hidden="true" className="block flex-none">
      <MarkShape index={index} tone={tone} />
    </svg>
  )
}

/** The same around the origin of a drawing, 18 units wide. */
export function MarkShape({ index, tone }: { index: number; tone: string }) {
  const shape = [
    <circle key="0" r="9" />,
    <rect key="1" x="-8.5" y="-8.5" width="17" height="17" />,
    <path key="2" d="M0-10 10 0 0 10-10 0Z" />,
    <path key="3" d="M-9-8H9L0 10Z" />,
  ][index % 4]
  return (
    <g fill={tone}>
      {shape}
      <text
        y={index % 4 === 3 ? 1.5 : 3.8}
        textAnchor="middle"
        fontSize="10.5"
        fontWeight="650"
        fill="var(--paper)"
        className="select-none"
      >
        {index + 1}
      </text>
    </g>
  )
}

/** Selected ember, the main one as comparison, the others ink. */
export const channelTone = (selected: boolean, main: boolean): 'ember' | 'lane' | 'ink-2' => (selected ? 'ember' : main ? 'lane' : 'ink-2')

export const DASHES: readonly (readonly number[] | undefined)[] = [
  undefined,
  [6, 3],
  [2, 3],
  [8, 3, 2, 3],
  [4, 2],
  [1, 2],
  [10, 4],
  [6, 2, 1, 2],
]

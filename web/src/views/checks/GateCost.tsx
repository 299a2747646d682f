import { modelOf } from '@fulgor/core/catalogue'
import { clippingStages, partName, placeOf, resolveStage, stagesOf, type Edit, type Place, type Preset } from '@fulgor/core/preset'
import type { GateProposal, Reading } from '@fulgor/core/reading'
import { edit, newId } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'

/** How a gate would be set by the noise that it hears, and how much earlier notes of the riff would end. */
export function GateCost({ preset, snapshot, reading }: { preset: Preset; snapshot: string; reading: Reading }) {
  const dispatch = useAppDispatch()
  const gates = stagesOf(preset.chain).flatMap((stage) => {
    const { gate } = (reading.stages[stage.id] as Reading['stages'][string] | undefined) ?? {}
    return modelOf(stage.model).family === 'gate' && gate ? [{ stage, gate }] : []
  })
  const set = (stage: string, { opensAt, closesAt, hold }: GateProposal, to: string | null): Edit[] => [
    { type: 'setParam', stage, snapshot: to, param: 'threshold', value: opensAt },
    { type: 'setParam', stage, snapshot: to, param: 'hysteresis', value: opensAt - closesAt },
    { type: 'setParam', stage, snapshot: to, param: 'hold', value: hold },
  ]
  const added = (proposal: GateProposal, at: Place, more: (stage: string) => Edit[] = () => []) => {
    const stage = newId()
    dispatch(
      edit({ type: 'all', edits: [{ type: 'addStage', stage, model: 'gate', ...at }, ...set(stage, proposal, null), ...more(stage)] }),
    )
  }
  const loudest = clippingStages(preset, snapshot).at(-1)
  const behind = loudest && placeOf(preset, loudest.id)
  const second = gates.length === 1 && gates[0].stage.params.key !== 'dry' && reading.guitar.gate && behind ? reading.guitar.gate : null
  return (
    <div className="mt-2 border-t border-rule pt-1 text-[12px]" data-gates={gates.length}>
      <h3 className="font-semibold">
        Gate, and its cost <Explain term="gateCost" />
      </h3>
      {gates.map(({ stage, gate }) => {
        const { on, params } = resolveStage(preset, stage, snapshot)
        const now = Number(params.threshold)
        return (
          <p key={stage.id}>
            <b>{partName(preset, stage.id)}</b> {on ? 'opens' : 'is off; it would open'} at <span className="num">{figure(now)}</span>,
            closes at <span className="num">{figure(now - Number(params.hysteresis))} dBFS</span>. By its noise: <Words gate={gate} />{' '}
            {now !== gate.opensAt && (
              <button type="button" className="act" onClick={() => dispatch(edit({ type: 'all', edits: set(stage.id, gate, snapshot) }))}>
                Set it so here
              </button>
            )}
          </p>
        )
      })}
      {gates.length > 0 && reading.openNoiseDbfs !== null && (
        <p>
          Under the notes, with the gates open, <span className="num">{figure(reading.openNoiseDbfs)} dBFS</span> of noise leave it.
        </p>
      )}
      {second && loudest && behind && (
        <p>
          A second one behind {partName(preset, loudest.id)}, keyed from the dry guitar, closes over what the gain lifts of the rest:{' '}
          <Words gate={second} />{' '}
          <button
            type="button"
            className="act"
            onClick={() =>
              added(second, { lane: behind.lane, index: behind.index + 1 }, (stage) => [
                { type: 'setParam', stage, snapshot: null, param: 'key', value: 'dry' },
              ])
            }
          >
            Put it in too
          </button>
        </p>
      )}
      {gates.length === 0 && reading.guitar.gate && (
        <p>
          At the guitar: <Words gate={reading.guitar.gate} />{' '}
          <button type="button" className="act" onClick={() => reading.guitar.gate && added(reading.guitar.gate, { lane: null, index: 0 })}>
            Put it in
          </button>
        </p>
      )}
    </div>
  )
}

function Words({ gate }: { gate: GateProposal }) {
  return (
    <>
      open at <span className="num">{figure(gate.opensAt)}</span>, close at <span className="num">{figure(gate.closesAt)}</span>, hold{' '}
      <span className="num">{gate.hold} ms</span>:{' '}
      {gate.notes === 0 ? (
        'no note of the riff falls so low.'
      ) : (
        <>
          {gate.notes} {gate.notes === 1 ? 'note' : 'notes'} of the riff would end earlier, by{' '}
          <span className="num">{figure(gate.earlierMs / 1000, 2)} s</span> in the middle,{' '}
          <span className="num">{figure(gate.mostMs / 1000, 2)} s</span> at most.
        </>
      )}
    </>
  )
}
